// A new outing starts with the time zone of this device; it can be changed on its page.
document.addEventListener("alpine:init", () => {
  window.Alpine.data("newOuting", () => ({
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC",
  }));
});
