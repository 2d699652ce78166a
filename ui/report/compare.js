"use strict";
const body = document.body, cut = document.getElementById("cut"), sheet = document.querySelector(".sheet");
const all = s => [...document.querySelectorAll(s)];

const stage = document.querySelector(".stage"), fitting = document.getElementById("fit"), width = parseFloat(sheet.style.width);
const fit = () => {
  const needs = body.dataset.view === "side" ? 2 * width + 24 : width;
  sheet.style.zoom = fitting.checked ? Math.min(1, (stage.clientWidth - 40) / needs) : 1;
};
fitting.addEventListener("change", fit);
addEventListener("resize", fit);
fit();

for (const b of all(".views button")) b.addEventListener("click", () => {
  body.dataset.view = b.dataset.view;
  for (const o of all(".views button")) o.setAttribute("aria-pressed", o === b);
  fit();
});
document.getElementById("frames").addEventListener("change", e => { body.dataset.frames = e.target.checked ? "on" : "off"; });
cut.addEventListener("input", () => sheet.style.setProperty("--cut", cut.value + "%"));

for (const b of all(".one")) b.addEventListener("click", () => {
  for (const o of all(".one")) o.toggleAttribute("aria-current", false);
  b.setAttribute("aria-current", "true");
  for (const m of all(".marks i")) m.toggleAttribute("data-on", m.dataset.number === b.dataset.number);
  const to = all(".ours .marks i[data-on]")[0] || all(".theirs .marks i[data-on]")[0];
  if (to) to.scrollIntoView({ block: "center", inline: "center" });
});
