// The card's one act: print it.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("card", () => ({
    print() {
      window.print();
    },
  }));
});
