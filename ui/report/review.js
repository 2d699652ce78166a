"use strict";
const $ = id => document.getElementById(id), frame = $("page"), about = $("about"), list = $("list");
const store = "comments:" + share.site + ":" + share.page;
const save = (k, v) => { try { localStorage.setItem(k, v); } catch { /* a browser that keeps nothing */ } };
const read = k => { try { return localStorage.getItem(k); } catch { return null; } };
const own = (() => { try { return JSON.parse(read(store)) || []; } catch { return []; } })();
const flat = s => s.replace(/\s+/g, " ").trim();
const el = (tag, props, ...kids) => { const n = Object.assign(document.createElement(tag), props); n.append(...kids); return n; };
const uuid = () => "urn:uuid:" + (crypto.randomUUID ? crypto.randomUUID() : "10000000-1000-4000-8000-100000000000".replace(/[018]/g, c => (c ^ crypto.getRandomValues(new Uint8Array(1))[0] & 15 >> c / 4).toString(16)));
const say = text => { $("said").textContent = ""; setTimeout(() => { $("said").textContent = text; }, 30); clearTimeout(say.timer); say.timer = setTimeout(() => { $("said").textContent = ""; }, 5000); };
let picking = false, places = new Map(), names = new Map(), pins = null, shown = null, lit = null;

// The page, at a width.
const doc = () => frame.contentDocument;
function fit() {
  const width = +$("width").value, room = $("stage").clientWidth - 2 * parseFloat(getComputedStyle($("stage")).paddingLeft);
  const scale = Math.min(1, room / width);
  frame.style.width = width + "px";
  frame.style.height = "900px";
  const height = Math.max(600, doc() && doc().documentElement ? doc().documentElement.scrollHeight : 900);
  frame.style.height = height + "px";
  frame.style.transform = `scale(${scale})`;
  $("paper").style.width = width * scale + "px";
  $("paper").style.height = height * scale + "px";
  $("px").textContent = width + " px" + (scale < 1 ? `, at ${Math.round(scale * 100)} %` : "");
  for (const b of document.querySelectorAll("[data-width]")) b.setAttribute("aria-pressed", b.dataset.width == width);
  drawPins();
}
$("width").addEventListener("input", fit);
addEventListener("resize", fit);
for (const b of document.querySelectorAll("[data-width]")) b.addEventListener("click", () => { $("width").value = b.dataset.width; fit(); });

// What can be spoken of: blocks, and the parts in them.
const nice = s => s.replace(/-/g, " ");
function textOf(n) {
  let s = "";
  for (const k of n.childNodes) s += k.nodeType == 3 ? k.data : k.nodeType != 1 || k.tagName == "SCRIPT" || k.tagName == "STYLE" ? "" : k.tagName == "IMG" ? " " + k.alt + " " : textOf(k);
  return s;
}
function collect() {
  places = new Map();
  names = new Map(); // the other way round
  about.replaceChildren(el("option", {value: "", textContent: "the page as a whole"}));
  for (const block of doc().querySelectorAll("[data-block]")) {
    const group = el("optgroup", {label: nice(block.dataset.block)});
    const add = (value, node, label) => { places.set(value, node); names.set(node, value); group.append(el("option", {value, textContent: label})); };
    add(block.dataset.block, block, "all of " + nice(block.dataset.block));
    const parts = [...block.querySelectorAll("[data-part]")].filter(n => n.closest("[data-block]") == block);
    const count = {}, nth = {};
    for (const n of parts) count[n.dataset.part] = (count[n.dataset.part] || 0) + 1;
    for (const n of parts) {
      const part = n.dataset.part;
      nth[part] = (nth[part] || 0) + 1;
      const text = flat(textOf(n));
      if (!text) continue;
      const value = block.dataset.block + "." + part + (count[part] > 1 ? `[${nth[part]}]` : "");
      add(value, n, nice(part) + (count[part] > 1 ? " " + nth[part] : "") + ": " + (text.length > 40 ? text.slice(0, 39) + "…" : text));
    }
    about.append(group);
  }
}
const placeOf = n => { while (n && !names.has(n)) n = n.parentElement; return n ? names.get(n) : ""; };
const nameOf = place => {
  const o = [...about.options].find(o => o.value == place);
  return place == "" ? "the page as a whole" : !o ? place : place.includes(".") ? o.parentElement.label + ", " + o.textContent : o.textContent;
};

// Comments: those that came with the file, and those of this browser.
const all = () => [...share.annotations, ...own];
const done = id => all().filter(a => a.motivation == "assessing" && a.target == id).sort((a, b) => a.created < b.created ? -1 : 1).map(a => a.body.value).pop() == "done";
const answers = id => all().filter(a => a.motivation == "replying" && a.target == id).sort((a, b) => a.created < b.created ? -1 : 1);
const roots = () => all().filter(a => a.motivation == "commenting" && a.target.source == share.page);
const numbers = () => { // those that the site gave, then on from there
  const out = new Map();
  let most = Math.max(0, ...share.annotations.map(a => a.number || 0));
  for (const a of roots()) out.set(a.id, a.number || ++most);
  return out;
};
const placed = a => share.pins[a.id] ? share.pins[a.id].place : (a.target.selector.find(s => s.type == "FragmentSelector") || {value: ""}).value;
function keep(a, what) { own.push(a); save(store, JSON.stringify(own)); render(); say(what); }
const make = (motivation, value, target, purpose) => ({id: uuid(), type: "Annotation", motivation, creator: {type: "Person", name: $("name").value.trim()}, created: new Date().toISOString().replace(/\.\d+/, ""), body: purpose ? {type: "TextualBody", purpose, value} : {type: "TextualBody", value, format: "text/plain"}, target});
function named() { if ($("name").value.trim()) return true; $("name").focus(); say("Say your name first."); return false; }

function render() {
  const items = roots(), number = numbers();
  $("count").textContent = items.length ? `${items.length} comment${items.length > 1 ? "s" : ""}, ${items.filter(a => done(a.id)).length} done` : "No comments yet";
  list.replaceChildren(...items.map(a => {
    const n = number.get(a.id), item = el("li", {className: "one"}), place = placed(a), pin = share.pins[a.id];
    item.dataset.id = a.id;
    if (done(a.id)) item.dataset.done = "";
    if (lit == a.id) item.dataset.on = "";
    item.append(el("p", {}, el("span", {className: "number", textContent: n}), el("span", {className: "who", textContent: a.creator && a.creator.name || "somebody"}), " ", el("time", {dateTime: a.created, textContent: (a.created || "").slice(0, 10)}), done(a.id) ? " · done" : ""));
    item.append(el("p", {className: "where", textContent: "about " + nameOf(place)}));
    if (pin && pin.state) item.append(el("p", {className: "state", textContent: "Changed since: " + pin.state}));
    item.append(el("p", {className: "words", textContent: a.body.value}));
    for (const r of answers(a.id)) item.append(el("blockquote", {}, el("span", {className: "who", textContent: (r.creator && r.creator.name || "somebody") + ": "}), r.body.value));
    const row = el("p", {className: "row"});
    const button = (label, act) => { const b = el("button", {type: "button", textContent: label}); b.setAttribute("aria-label", `${label}: comment ${n}`); b.addEventListener("click", act); row.append(b); };
    if (places.get(place)) button("Show", () => light(a.id, true));
    button("Answer", () => {
      if (item.querySelector("form")) return;
      const text = el("textarea", {rows: 3, required: true, maxLength: 4000});
      text.setAttribute("aria-label", `Answer to comment ${n}`);
      const form = el("form", {}, text, el("p", {className: "row"}, el("button", {type: "submit", textContent: "Keep this answer"})));
      form.addEventListener("submit", e => { e.preventDefault(); if (named() && text.value.trim()) keep(make("replying", text.value.trim(), a.id), "Your answer is kept."); });
      item.append(form);
      text.focus();
    });
    button(done(a.id) ? "Open again" : "Mark as done", () => { if (named()) keep(make("assessing", done(a.id) ? "open" : "done", a.id, "tagging"), done(a.id) ? "Marked as done." : "Open again."); });
    const at = own.findIndex(x => x.id == a.id);
    if (at >= 0) button("Take back", () => { own.splice(at, 1); for (let k = own.length; k--;) if (own[k].target == a.id) own.splice(k, 1); save(store, JSON.stringify(own)); render(); say("Taken back."); });
    item.append(row);
    return item;
  }));
  drawPins();
}

// Pins stand in the page, where it is spoken of.
function drawPins() {
  if (!doc() || !doc().body) return;
  if (!pins || !pins.isConnected) { pins = doc().createElement("div"); doc().documentElement.append(pins); }
  pins.replaceChildren();
  const number = numbers();
  roots().forEach(a => {
    const node = places.get(placed(a));
    if (!node) return;
    const r = node.getBoundingClientRect(), b = doc().createElement("button");
    b.textContent = number.get(a.id);
    b.setAttribute("aria-label", `Comment ${number.get(a.id)}`);
    b.style.cssText = `all:unset;position:absolute;z-index:2147483646;left:${Math.max(4, Math.min(r.right - 14, frame.clientWidth - 34))}px;top:${Math.max(4, r.top + doc().defaultView.scrollY - 12)}px;min-width:28px;height:28px;border-radius:14px;background:${done(a.id) ? "#3f7a4f" : "#8a3ea0"};color:#fff;font:600 14px/28px system-ui,sans-serif;text-align:center;cursor:pointer;box-shadow:0 0 0 2px #fff,0 2px 8px rgb(0 0 0/.4)`;
    b.addEventListener("click", e => { e.preventDefault(); e.stopPropagation(); light(a.id, false); });
    b.addEventListener("keydown", e => { if (e.key == "Enter" || e.key == " ") { e.preventDefault(); light(a.id, false); } });
    b.tabIndex = 0;
    pins.append(b);
  });
}
function outline(node, color) {
  if (!shown) { shown = doc().createElement("div"); doc().documentElement.append(shown); }
  if (!node) { shown.style.display = "none"; return; }
  const r = node.getBoundingClientRect();
  shown.style.cssText = `position:absolute;pointer-events:none;z-index:2147483645;left:${r.left}px;top:${r.top + doc().defaultView.scrollY}px;width:${r.width}px;height:${r.height}px;outline:3px solid ${color};outline-offset:-1px`;
}
function light(id, scroll) {
  lit = id;
  for (const n of list.children) n.toggleAttribute("data-on", n.dataset.id == id);
  const a = roots().find(x => x.id == id), node = a && places.get(placed(a));
  outline(node, "#8a3ea0");
  if (scroll && node) {
    const scale = $("paper").clientWidth / frame.clientWidth, r = node.getBoundingClientRect();
    $("stage").scrollTo({top: r.top * scale - 80, behavior: matchMedia("(prefers-reduced-motion: reduce)").matches ? "auto" : "smooth"});
    if (innerWidth < 860) $("stage").scrollIntoView();
  } else {
    const n = [...list.children].find(n => n.dataset.id == id);
    if (n) { n.tabIndex = -1; n.focus(); n.scrollIntoView({block: "nearest"}); }
  }
}
function pick(on) { picking = on; $("pick").setAttribute("aria-pressed", on); if (!on) outline(null); else say("Press what you want to speak of; Escape ends it."); if (doc()) doc().documentElement.style.cursor = on ? "crosshair" : ""; }
$("pick").addEventListener("click", () => pick(!picking));
function key(e) {
  const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName || "");
  if (e.key == "Escape") pick(false);
  if ((e.key == "c" || e.key == "C") && !typing && !e.ctrlKey && !e.metaKey && !e.altKey) { e.preventDefault(); pick(!picking); }
}
addEventListener("keydown", key);
about.addEventListener("change", () => outline(places.get(about.value), "#8a3ea0"));
$("form").addEventListener("submit", e => {
  e.preventDefault();
  const place = about.value, node = places.get(place), text = $("text").value.trim();
  if (!named() || !text) return;
  const selector = [];
  if (place) selector.push({type: "FragmentSelector", value: place});
  if (node && place.includes(".")) selector.push({type: "TextQuoteSelector", exact: [...flat(textOf(node))].slice(0, share.quote).join("")});
  keep(make("commenting", text, {source: share.page, selector}), "Your comment is kept. Download the comments when you have said all.");
  save("comments:name", $("name").value.trim());
  $("text").value = "";
  $("text").focus();
});

// Nothing is sent: the comments leave as a file, or as text.
const whole = () => JSON.stringify({"@context": "http://www.w3.org/ns/anno.jsonld", type: "AnnotationPage", items: own}, null, 2) + "\n";
$("download").addEventListener("click", () => {
  if (!own.length) return say("There is nothing of yours to download yet.");
  const name = ($("name").value.trim() || "comments").toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const a = el("a", {href: URL.createObjectURL(new Blob([whole()], {type: "application/ld+json"})), download: name + ".json"});
  document.body.append(a); a.click(); a.remove();
  say(`Downloaded ${name}.json: send it back to those who sent you this file.`);
});
$("copy").addEventListener("click", async () => {
  if (!own.length) return say("There is nothing of yours to copy yet.");
  $("raw").value = whole();
  try { await navigator.clipboard.writeText(whole()); say("Copied. Paste it into a message to those who sent you this file."); } catch { $("out").showModal(); $("raw").select(); }
});

$("name").value = read("comments:name") || "";
$("width").value = innerWidth < 860 ? 390 : 1280;
frame.addEventListener("load", () => {
  const d = doc();
  d.addEventListener("click", e => {
    const link = e.target.closest("a[href], button[type=submit], input[type=submit]");
    if (link && !(link.getAttribute("href") || "").startsWith("#")) { e.preventDefault(); if (!picking) say("Links lead nowhere here: this is one page for comments."); }
    if (!picking) return;
    e.preventDefault(); e.stopPropagation();
    about.value = placeOf(e.target);
    outline(places.get(about.value), "#8a3ea0");
    picking = false; $("pick").setAttribute("aria-pressed", false); d.documentElement.style.cursor = "";
    $("text").focus();
    if (innerWidth < 860) $("form").scrollIntoView();
  }, true);
  d.addEventListener("submit", e => e.preventDefault(), true);
  d.addEventListener("mousemove", e => { if (picking) outline(places.get(placeOf(e.target)), "#8a3ea0"); });
  d.addEventListener("keydown", key);
  collect(); render(); fit();
  if (d.fonts) d.fonts.ready.then(fit);
});
frame.srcdoc = share.html;
