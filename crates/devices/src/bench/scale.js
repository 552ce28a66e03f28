// The stand-in's own page: shows what the scale shows, and sends what the hand does.
"use strict";

const send = (path) => fetch(path, { method: "POST" });

for (const button of document.querySelectorAll("[data-post]")) {
  button.addEventListener("click", () => send(button.dataset.post));
}
for (const button of document.querySelectorAll("[data-pour]")) {
  button.addEventListener("pointerdown", () => send(`/pour?g=${button.dataset.pour}`));
  for (const end of ["pointerup", "pointercancel", "pointerleave"]) button.addEventListener(end, () => send("/pour?g=0"));
}

const show = async () => {
  try {
    const state = await (await fetch("/state")).json();
    const places = state.step_g < 1 ? 1 : 0;
    document.getElementById("shows").textContent = state.shows_g === null ? "too much" : state.shows_g.toFixed(places);
    document.getElementById("pairing").hidden = state.paired;
    document.getElementById("paired").hidden = !state.paired;
    const code = state.code || "no kitchen answers yet";
    if (document.getElementById("code").textContent !== code) document.getElementById("code").textContent = code;
  } catch {
    document.getElementById("shows").textContent = "–";
  }
};
setInterval(show, 250);
