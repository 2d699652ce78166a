"use strict";
const $ = id => document.getElementById(id);
const make = (tag, cls, text) => { const e = document.createElement(tag); if (cls) e.className = cls; if (text !== undefined) e.textContent = text; return e; };
const pages = JSON.parse($("pages").textContent);
let page, width, picked = null, shown = null;

// A third of the ruler is for phones: widths are drawn by their logarithm.
const scale = w => (Math.log(w) - Math.log(page.from)) / (Math.log(page.to + 1) - Math.log(page.from)) * 100;
const unscale = x => Math.round(Math.exp(Math.log(page.from) + x * (Math.log(page.to + 1) - Math.log(page.from))));
const place = (e, from, to) => { e.style.left = scale(from) + "%"; e.style.width = Math.max(0, scale(to + 1) - scale(from)) + "%"; };
const holds = f => !f.to || f.from <= width && width <= f.to;

function choose(i) {
  page = pages[i];
  $("verdict").textContent = page.verdict;
  drawMap();
  drawFindings();
  $("view").srcdoc = page.html;
  picked = null;
  go(Math.min(Math.max(width || 390, page.from), page.to));
}

function row(name, cls) {
  const r = make("div", "row " + (cls || ""));
  r.append(make("span", "", name), make("div"));
  $("map").append(r);
  return r.lastChild;
}

function drawMap() {
  $("map").replaceChildren();
  const ticks = row("", "ticks");
  for (const r of page.ranges || []) {
    if (r.from > page.to || r.to && r.to < page.from) continue;
    const t = make("div", "tick", r.name + (r.from > page.from ? " " + r.from : ""));
    t.style.left = scale(Math.max(r.from, page.from)) + "%";
    ticks.append(t);
  }
  for (const b of page.blocks || []) {
    const line = row(b.name);
    for (const s of b.arrangements || []) {
      const e = make("div", "span", s.as);
      e.title = s.as + " at " + s.from + ".." + s.to;
      e.dataset.from = s.from; e.dataset.to = s.to;
      place(e, s.from, s.to);
      line.append(e);
    }
    const own = page.findings.filter(f => f.block === b.name && f.to);
    if (!own.length) continue;
    const hits = row("", "hits");
    for (const f of [...own].reverse()) {
      const e = make("div", "hit " + f.severity);
      e.title = f.rule;
      place(e, f.from, f.to);
      hits.append(e);
    }
  }
  const handle = make("div", "handle");
  handle.id = "handle";
  $("map").append(handle);
}

function drawFindings() {
  const list = $("findings");
  list.replaceChildren();
  let block = null;
  for (const f of page.findings) {
    if (f.block !== block) {
      block = f.block;
      const b = (page.blocks || []).find(x => x.name === block);
      const h = make("li", "block-name", block || "The page");
      if (b && b.section) h.append(" ", make("small", "", b.section));
      list.append(h);
    }
    const li = make("li"), e = make("button", "finding " + f.severity);
    e.type = "button";
    e.append(make("b", "", f.severity), " ");
    if (f.to) e.append(make("span", "at", f.from === f.to ? "at " + f.from : f.from + ".." + f.to), " ");
    e.append(f.text + " ", make("code", "", "[" + f.rule + "]"));
    if (f.cause) e.append(make("br"), make("code", "", f.cause));
    if (f.cure && f.proved) e.append(make("br"), make("code", "", f.cure));
    e.onclick = () => { picked = f; if (!holds(f)) go(f.from); else mark(); };
    f.row = e;
    li.append(e);
    list.append(li);
  }
  if (!page.findings.length) list.append(make("li", "", "Nothing was found."));
  $("accepted").replaceChildren(...(page.accepted || []).map(a => make("li", "", "accepted: " + (a.block || page.page) + ": " + a.because + " [" + a.rule + "]")));
}

function fit() {
  const room = $("frame").parentElement.clientWidth - parseFloat(getComputedStyle($("frame").parentElement).paddingRight) - parseFloat(getComputedStyle($("frame").parentElement).paddingLeft);
  const k = Math.min(1, room / width), high = window.innerWidth <= 760 ? window.innerHeight * .55 : $("frame").parentElement.clientHeight - 24;
  $("frame").style.width = width * k + "px";
  $("frame").style.height = high + "px";
  const v = $("view");
  v.style.width = width + "px";
  v.style.height = high / k + "px";
  v.style.transform = "scale(" + k + ")";
}

function mark() {
  const d = $("view").contentDocument;
  if (shown) { shown.style.outline = shown.was; shown = null; }
  document.querySelectorAll(".finding").forEach(e => e.classList.remove("picked"));
  if (!picked || !holds(picked)) return;
  picked.row.classList.add("picked");
  const list = picked.row.closest(".findings"), at = picked.row.offsetTop - list.offsetTop;
  if (at < list.scrollTop || at > list.scrollTop + list.clientHeight - 80) list.scrollTop = at - 40;
  const e = d && picked.path && d.querySelector(picked.path);
  if (!e) return;
  e.was = e.style.outline;
  e.style.outline = "3px solid #d6006c";
  shown = e;
  const v = d.defaultView, box = e.getBoundingClientRect();
  v.scrollTo({left: 0, top: box.top + v.scrollY - Math.max(0, (v.innerHeight - box.height) / 2), behavior: "instant"});
}

function go(w) {
  width = Math.min(Math.max(Math.round(w) || page.from, page.from), page.to);
  $("number").value = width;
  const map = $("map"), line = map.querySelector(".row > div");
  $("handle").style.left = line.offsetLeft + line.clientWidth * scale(width + .5) / 100 + "px";
  const r = (page.ranges || []).find(r => r.from <= width && (!r.to || width <= r.to));
  $("range").textContent = r ? r.name : "";
  map.querySelectorAll(".span").forEach(e => e.classList.toggle("on", +e.dataset.from <= width && width <= +e.dataset.to));
  for (const f of page.findings) f.row.classList.toggle("on", holds(f));
  fit();
  mark();
}

// the widths at which an arrangement or a finding begins or has ended
const changes = () => [...new Set([...(page.blocks || []).flatMap(b => (b.arrangements || []).map(s => s.from)), ...page.findings.filter(f => f.to).flatMap(f => [f.from, f.to + 1])])].sort((a, b) => a - b);

function drag(ev) {
  const line = $("map").querySelector(".row > div"), box = line.getBoundingClientRect();
  go(unscale(Math.min(1, Math.max(0, (ev.clientX - box.left) / box.width))));
}

$("page").append(...pages.map((p, i) => { const n = p.findings.length, o = make("option", "", p.page + (n ? " (" + n + ")" : "")); o.value = i; return o; }));
$("page").onchange = ev => choose(+ev.target.value);
$("number").onchange = ev => go(+ev.target.value);
$("before").onclick = () => go(changes().filter(w => w < width).pop() || page.from);
$("after").onclick = () => go(changes().find(w => w > width) || page.to);
$("map").onpointerdown = ev => { $("map").setPointerCapture(ev.pointerId); drag(ev); $("map").onpointermove = drag; };
$("map").onpointerup = $("map").onpointercancel = () => { $("map").onpointermove = null; };
$("map").tabIndex = 0;
$("map").setAttribute("role", "slider");
$("map").setAttribute("aria-label", "Width");
$("map").onkeydown = ev => {
  const by = {ArrowLeft: -1, ArrowRight: 1, PageDown: -40, PageUp: 40}[ev.key];
  if (by) { go(width + by); ev.preventDefault(); }
};
$("view").onload = () => { $("view").contentDocument.documentElement.style.scrollbarWidth = "none"; go(width); };
window.onresize = () => go(width);
const weight = p => p.findings.reduce((n, f) => n + ({error: 1e6, warning: 1e3}[f.severity] || 1), 0);
const worst = pages.reduce((best, p, i) => weight(p) > weight(pages[best]) ? i : best, 0);
$("page").value = worst;
choose(worst);
const first = pages[worst].findings.find(f => f.to);
if (first) { picked = first; go(first.from <= 390 && 390 <= first.to ? 390 : first.from); }
