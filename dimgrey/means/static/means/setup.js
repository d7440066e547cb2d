// The setup editor: every move of a slider asks the server for the picture and the curve.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("setup", () => ({
    waiting: false,
    again: false,
    async ask() {
      const form = this.$root;
      for (const range of form.querySelectorAll("input[type=range]"))
        range.parentElement.querySelector("output").textContent = range.value;
      if (!form.elements.scene) return;
      if (this.waiting) {
        this.again = true;
        return;
      }
      this.waiting = true;
      const asked = new URLSearchParams(new FormData(form));
      asked.delete("csrfmiddlewaretoken");
      asked.delete("notes");
      try {
        const answer = await fetch(`${form.dataset.preview}?${asked}`);
        if (answer.ok)
          window.htmx.swap(document.getElementById("preview"), await answer.text(), { swapStyle: "innerHTML" });
      } catch {
        /* the last picture stays; keeping the setup will say that the server is away */
      }
      this.waiting = false;
      if (this.again) {
        this.again = false;
        this.ask();
      }
    },
  }));
});
