// Two pictures under one divider.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("divided", () => ({
    init() {
      this.move();
    },
    move() {
      this.$root.querySelector(".right").style.clipPath =
        `inset(0 0 0 ${this.$root.querySelector("input[type=range]").value}%)`;
    },
  }));
});
