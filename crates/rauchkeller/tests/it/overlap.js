// Which texts lie over one another, are cut, or stick out of the page. Client rectangles of visible text, tolerance 1 px.
// Left out: what only a screen reader says, what lies under an open dialog, and EXCEPT, each with its reason.
const EXCEPT = [
  ".skip", // waits above the page until it has the focus
  ".visually-hidden", // for screen readers
  "datalist", "option", // the browser's own lists
  ".like", // a blank that holds a line open
];
const TOLERANCE = 1;
const dialog = document.querySelector("dialog[open]");
const short = (text) => text.replace(/\s+/g, " ").trim().slice(0, 40);
const shown = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true });
const where = (e) => {
  const named = e.closest("[id],[class]");
  return named ? named.tagName.toLowerCase() + (named.id ? "#" + named.id : "." + (named.getAttribute("class") || "").split(" ").join(".")) : e.tagName;
};
const found = [];
const rects = [];
const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
let nth = 0;
for (let node = walk.nextNode(); node; node = walk.nextNode()) {
  const e = node.parentElement;
  if (!e || !node.data.trim() || e.closest("script,style,noscript,title,desc") || e.closest(EXCEPT.join(",")) || !shown(e)) continue;
  if (dialog && !dialog.contains(e)) continue;
  const style = getComputedStyle(e);
  if (parseFloat(style.fontSize) === 0) continue;
  nth += 1;
  const range = document.createRange();
  range.selectNodeContents(node);
  for (const box of range.getClientRects()) {
    if (box.width <= 1 || box.height <= 1) continue;
    // A line's box is higher than its letters: half of the leading above and below them belongs to nobody.
    const size = parseFloat(style.fontSize) * (e.closest("svg") ? box.height / (e.getBBox ? Math.max(e.getBBox().height, 1) : box.height) : 1);
    const spare = Math.max(0, (box.height - size) / 2);
    rects.push({ nth, e, text: short(node.data), left: box.left, right: box.right, top: box.top + spare, bottom: box.bottom - spare });
    // Cut by what does not show what sticks out of it.
    for (let out = e; out && out !== document.body; out = out.parentElement) {
      const hides = getComputedStyle(out);
      const cuts = (axis) => hides["overflow" + axis] === "hidden" || hides["overflow" + axis] === "clip";
      const edge = out.getBoundingClientRect();
      const wide = cuts("X") && (box.left < edge.left - TOLERANCE || box.right > edge.right + TOLERANCE);
      const high = cuts("Y") && (box.top + spare < edge.top - TOLERANCE || box.bottom - spare > edge.bottom + TOLERANCE);
      if (wide || high) {
        found.push(`cut: “${short(node.data)}” by ${where(out)}`);
        break;
      }
      if (hides.overflowX === "auto" || hides.overflowX === "scroll") break;
    }
    if (box.left < -TOLERANCE || box.right > innerWidth + TOLERANCE) found.push(`beside the page: “${short(node.data)}” in ${where(e)}`);
  }
}
for (const field of document.querySelectorAll("input:not([type=radio],[type=checkbox],[type=range],[type=hidden],[type=password]),textarea")) {
  if (!shown(field) || (dialog && !dialog.contains(field)) || !field.value) continue;
  const over = field.tagName === "TEXTAREA" ? 0 : field.scrollWidth - field.clientWidth;
  if (over > TOLERANCE) found.push(`cut: “${short(field.value)}” in its field ${field.name} by ${over} px`);
}
rects.sort((a, b) => a.top - b.top);
const pairs = new Set();
for (let i = 0; i < rects.length; i++) {
  for (let k = i + 1; k < rects.length && rects[k].top < rects[i].bottom - TOLERANCE; k++) {
    const [a, b] = [rects[i], rects[k]];
    const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
    const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
    if (a.nth === b.nth || wide <= TOLERANCE || high <= TOLERANCE) continue;
    const pair = `over one another: “${a.text}” in ${where(a.e)} and “${b.text}” in ${where(b.e)}`;
    if (!pairs.has(pair)) found.push(pair);
    pairs.add(pair);
  }
}
const wider = document.documentElement.scrollWidth - innerWidth;
if (wider > 0) found.push(`the page is ${wider} px wider than the screen`);
return [found, rects.length];
