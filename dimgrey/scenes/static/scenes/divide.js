// Two pictures under one divider.
const range = document.getElementById("divide"), right = document.querySelector("#divided .right");
const move = () => { right.style.clipPath = `inset(0 0 0 ${range.value}%)`; };
if (range) { range.addEventListener("input", move); move(); }
