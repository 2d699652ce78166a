// Each view is a page of its own: the shared looks and the body of its section, drawn smaller, made when it comes near.
const shared = document.getElementById("shared").innerHTML;
const scales = {390: 0.72, 1280: 0.68};
const fill = view => {
  const width = +view.dataset.width, height = +view.dataset.height, scale = scales[width];
  const body = view.closest("section").querySelector(".body").innerHTML;
  const frame = document.createElement("iframe");
  frame.width = width;
  frame.height = height;
  frame.style.transform = `scale(${scale})`;
  frame.setAttribute("sandbox", "");
  frame.title = `${width} px wide`;
  frame.srcdoc = `<!doctype html><meta name="viewport" content="width=device-width">${shared}${body}`;
  view.replaceChildren(frame);
};
const near = new IntersectionObserver(list => {
  for (const e of list) {
    if (e.isIntersecting) {
      near.unobserve(e.target);
      fill(e.target);
    }
  }
}, {rootMargin: "1200px"});
for (const view of document.querySelectorAll(".view")) {
  const scale = scales[view.dataset.width];
  view.style.width = `${view.dataset.width * scale}px`;
  view.style.height = `${view.dataset.height * scale}px`;
  near.observe(view);
}
