// A new outing starts with the time zone of this device; it can be changed on its page.
const field = document.getElementById("new-outing-zone");
if (field) field.value = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
