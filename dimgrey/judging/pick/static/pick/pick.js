// One loupe over all frames of a pick: held over one, it shows the same place in every one.
const ZOOM = 4;
const pictures = [...document.querySelectorAll("[data-loupe]")];
document.querySelector("[data-hint]").hidden = false;

const show = (x, y) => {
  for (const picture of pictures) {
    const image = picture.querySelector("img");
    const loupe = picture.querySelector(".loupe");
    const box = image.getBoundingClientRect();
    const side = loupe.offsetWidth || 160;
    loupe.hidden = false;
    loupe.style.left = `${x * box.width - side / 2}px`;
    loupe.style.top = `${y * box.height - side / 2}px`;
    loupe.style.backgroundImage = `url("${image.src}")`;
    loupe.style.backgroundSize = `${box.width * ZOOM}px ${box.height * ZOOM}px`;
    loupe.style.backgroundPosition = `${side / 2 - x * box.width * ZOOM}px ${side / 2 - y * box.height * ZOOM}px`;
  }
};
const hide = () => pictures.forEach((picture) => (picture.querySelector(".loupe").hidden = true));
const place = (picture, event) => {
  const box = picture.querySelector("img").getBoundingClientRect();
  return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
};

for (const picture of pictures) {
  picture.addEventListener("pointerdown", (event) => {
    picture.setPointerCapture(event.pointerId);
    show(...place(picture, event));
  });
  picture.addEventListener("pointermove", (event) => {
    if (event.buttons) show(...place(picture, event));
  });
  picture.addEventListener("pointerup", hide);
  picture.addEventListener("pointercancel", hide);
  picture.addEventListener("dragstart", (event) => event.preventDefault());
  picture.addEventListener("dblclick", (event) => {
    const form = document.getElementById("subject-form");
    const [x, y] = place(picture, event);
    form.elements.x.value = (x * 100).toFixed(1);
    form.elements.y.value = (y * 100).toFixed(1);
    form.submit();
  });
}
