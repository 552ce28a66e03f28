// The little that cannot be done on the server: keys, holding, scrubbing, clocks that tick, a wake lock.
// No state lives here that a reload would lose.
"use strict";

const HOLD_MS = 500;
const UNDO_MS = 10000;

/* ---------- keys: one stroke a station ---------- */
const isTyping = (target) => target.closest("input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select");

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  if (document.body.classList.contains("raw")) return;
  const hook = document.querySelector(`.hook[data-key="${CSS.escape(event.key)}"]`);
  if (hook) hook.click();
});

/* Enter in a word of the Bench's sentence answers; it does not keep the plan by accident. */
document.addEventListener("keydown", (event) => {
  if (event.key === "Enter" && event.target.matches("#bench .said")) event.preventDefault();
});

/* A bowl that was weighed loses its field: the next one takes the hands. */
document.addEventListener("htmx:after:swap", () => {
  if (document.activeElement !== document.body || !document.querySelector("#salt-station")) return;
  const next = document.querySelector("#salt-station .slipped .said, #salt-station .bowl-form .said");
  if (weighing && next) next.focus({ preventScroll: true });
  weighing = false;
});
let weighing = false;
document.addEventListener("submit", (event) => { weighing = event.target.matches(".bowl-form"); });

/* ---------- the hours: the slider writes the hidden field ---------- */
document.addEventListener("input", (event) => {
  if (!event.target.matches(".scrub")) return;
  const box = event.target.closest("[data-scrub]");
  box.querySelector('input[name="hours"]').value = event.target.value;
}, true);

document.addEventListener("click", (event) => {
  const clear = event.target.closest("[data-clear]");
  if (!clear) return;
  const field = document.getElementById(`w-${clear.dataset.clear}`);
  field.value = "";
  field.dispatchEvent(new Event("input", { bubbles: true }));
});

/* ---------- a reading that is offered takes the word's place ---------- */
const write = (field, text) => {
  field.value = text;
  field.dispatchEvent(new Event("input", { bubbles: true }));
};
document.addEventListener("click", (event) => {
  const reading = event.target.closest("[data-say]");
  if (!reading) return;
  const field = document.getElementById(reading.dataset.into);
  event.preventDefault();
  write(field, reading.dataset.say);
  field.focus();
});

/* ---------- the browser's own calendar beside a word ---------- */
for (const kind of ["input", "change"]) {
  document.addEventListener(kind, (event) => {
    const { pick } = event.target.dataset;
    if (!pick) return;
    event.stopPropagation();
    if (kind === "change" && event.target.value) write(document.getElementById(pick), event.target.value.replace("T", " "));
  }, true);
}

/* ---------- what was noted is noted: the form it came from shows what the server says, nothing typed before ---------- */
document.addEventListener("htmx:after:swap", (event) => {
  const { request } = event.detail.ctx;
  if (request?.method?.toUpperCase() !== "POST") return;
  const form = `form[hx-post="${CSS.escape(request.action)}"]`;
  for (const field of document.querySelectorAll(`${form} input:not([type])`)) field.value = field.getAttribute("value");
});

/* ---------- a choice that opens more fields; a number typed by hand is not the scale's ---------- */
document.addEventListener("change", (event) => {
  const { shows, when } = event.target.dataset;
  if (shows) document.getElementById(shows).hidden = event.target.value !== when;
});
document.addEventListener("input", (event) => {
  const { from } = event.target.dataset;
  if (from) document.getElementById(from).value = "";
});

/* ---------- what the scale shows goes into the field beside it ---------- */
document.addEventListener("click", (event) => {
  const take = event.target.closest("[data-take]");
  if (!take) return;
  const field = document.getElementById(take.dataset.into);
  const one = field.dataset.one !== undefined;
  field.value = one ? take.dataset.take : `${field.value} ${take.dataset.take}`.trim();
  field.dispatchEvent(new Event("input", { bubbles: true }));
  if (field.dataset.from) document.getElementById(field.dataset.from).value = "scale";
});

/* ---------- handles on a face: dragged by pointer, moved by arrow keys; the field they stand for follows ---------- */
const BOTH_WAYS = /^(spot|tie)-(\d+)$/;

/* What is left alone stands in one field: entries one after the other, counted by kind. */
const moveAvoided = (field, along, across) => {
  const [, kind, index] = BOTH_WAYS.exec(field);
  const input = document.querySelector("#c-avoid");
  let seen = -1;
  const entries = input.value.split(/[;\n]/).map((entry) => entry.trim()).filter(Boolean).map((entry) => {
    const isTie = /^(string|tie|skewer)/i.test(entry);
    if (isTie !== (kind === "tie") || ++seen !== Number(index)) return entry;
    if (isTie) return `string ${along}`;
    const radius = (entry.match(/-?[\d.]+/g) || [])[2] || 10;
    return `place ${along} ${across} ${radius}`;
  });
  input.value = entries.join("; ");
  return input;
};

const MOVED_MS = 120;

const setHandle = (handle, along, across, told = "input") => {
  const field = handle.dataset.field;
  const input = BOTH_WAYS.test(field) ? moveAvoided(field, along, across) : document.querySelector(`#c-${CSS.escape(field)}`);
  if (!input) return;
  if (!BOTH_WAYS.test(field)) input.value = `${along} mm`;
  if (told) input.dispatchEvent(new Event(told, { bubbles: true }));
};

const between = (handle, value) => {
  const least = Number(handle.getAttribute("aria-valuemin"));
  const most = Number(handle.getAttribute("aria-valuemax"));
  return Math.round(Math.min(Math.max(value, least), most));
};

/* Millimetres of the face under a pointer. */
const faceAt = (handle, event) => {
  const svg = handle.closest("svg");
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  return { x: at.x - Number(handle.dataset.x0), y: Number(handle.dataset.y0) - at.y };
};

let dragging = null;
document.addEventListener("pointerdown", (event) => {
  const handle = event.target.closest?.(".handle");
  if (!handle) return;
  event.preventDefault();
  handle.focus();
  handle.classList.add("dragged");
  const frame = handle.closest("svg").getAttribute("viewBox");
  dragging = { id: handle.id, pointer: event.pointerId, told: 0, frame, y0: Number(handle.dataset.y0) };
});
document.addEventListener("pointermove", (event) => {
  if (!dragging || event.pointerId !== dragging.pointer) return;
  // The picture is swapped while it is dragged: the handle is found anew by its id.
  const handle = document.getElementById(dragging.id);
  if (!handle) return;
  event.preventDefault();
  const at = faceAt(handle, event);
  const along = handle.dataset.axis === "y" ? at.y : at.x;
  const value = between(handle, (along - Number(handle.dataset.origin)) * Number(handle.dataset.factor));
  const x = handle.dataset.axis === "y" ? null : at.x;
  const y = handle.dataset.axis === "x" ? null : at.y;
  const [, oldX, oldY] = /translate\(([-\d.]+)[ ,]([-\d.]+)\)/.exec(handle.getAttribute("transform"));
  const newX = x === null ? oldX : x + Number(handle.dataset.x0);
  const newY = y === null ? oldY : Number(handle.dataset.y0) - y;
  handle.setAttribute("transform", `translate(${newX} ${newY}) scale(${handle.dataset.scale})`);
  // The numbers follow while it moves, and once more when it is let go.
  const due = performance.now() - dragging.told > MOVED_MS;
  if (due) dragging.told = performance.now();
  dragging.last = [value, Math.round(at.y)];
  setHandle(handle, value, Math.round(at.y), due ? "moved" : null);
});
/* While it is dragged a new picture keeps the old frame: else the face would grow under the hand and run away from it. */
const keepFrame = () => {
  const handle = dragging && document.getElementById(dragging.id);
  if (!handle) return;
  const [, , wide, tall] = dragging.frame.split(" ");
  handle.closest("svg").setAttribute("viewBox", `0 ${Number(handle.dataset.y0) - dragging.y0} ${wide} ${tall}`);
  handle.classList.add("dragged");
};
document.addEventListener("htmx:after:swap", keepFrame);
for (const end of ["pointerup", "pointercancel"]) {
  document.addEventListener(end, () => {
    if (!dragging) return;
    const { id, last } = dragging;
    dragging = null;
    const handle = document.getElementById(id);
    handle?.classList.remove("dragged");
    // An answer to an earlier place may have written the field meanwhile: where the hand let go is what counts.
    if (handle && last) setHandle(handle, last[0], last[1], "moved");
  });
}
document.addEventListener("keydown", (event) => {
  const handle = event.target.closest?.(".handle");
  if (!handle) return;
  const step = event.shiftKey ? 10 : 1;
  const moves = { ArrowRight: [step, 0], ArrowLeft: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] };
  const move = moves[event.key];
  if (!move) return;
  event.preventDefault();
  const free = handle.dataset.axis === "xy";
  // Any arrow makes a measure larger or smaller: right and up, left and down.
  const value = between(handle, Number(handle.getAttribute("aria-valuenow")) + move[0] + (free ? 0 : move[1]));
  const across = Math.round(Number(handle.dataset.across || 0) + move[1]);
  // The next stroke of the key may come before the answer: it counts from here.
  handle.setAttribute("aria-valuenow", String(value));
  if (free) handle.dataset.across = String(across);
  setHandle(handle, value, across);
});

/* ---------- the light over the face: it walks at the pace the server gave, and a reload finds it again ---------- */
let walk = null;
const lightUp = () => {
  const face = document.querySelector("[data-light]");
  if (!face || !walk || walk.face !== face) return;
  const seconds = walk.lit + (face.dataset.running === "true" ? (performance.now() - walk.since) / 1000 : 0);
  const now = Math.floor(seconds / Number(face.dataset.each));
  for (const stretch of face.querySelectorAll("[data-stretch]")) {
    const i = Number(stretch.dataset.stretch);
    stretch.classList.toggle("past", i < now);
    stretch.classList.toggle("lit", i === now && face.querySelector("[data-stretch-now]") !== null);
  }
  const shown = face.querySelector("[data-stretch-now]");
  if (shown) shown.textContent = String(Math.min(now + 1, face.querySelectorAll("[data-stretch]").length));
};
const beginWalk = () => {
  const face = document.querySelector("[data-light]");
  walk = face && { face, lit: Number(face.dataset.lit), since: performance.now() };
  lightUp();
};
setInterval(lightUp, 250);

/* ---------- holding: half a second of press, by knuckle or space bar ---------- */
let holding = null;

const release = () => {
  if (!holding) return;
  clearTimeout(holding.timer);
  holding.button.classList.remove("holding");
  holding = null;
};

const hold = (button) => {
  release();
  button.classList.add("holding");
  holding = { button, timer: setTimeout(() => { release(); held(button); }, HOLD_MS) };
};

const held = (button) => {
  chime(button.hasAttribute("data-undo") ? 330 : 660);
  if (button.dataset.leave) {
    window.location.assign(button.dataset.leave);
    return;
  }
  button.dispatchEvent(new CustomEvent("held", { bubbles: true }));
};

document.addEventListener("pointerdown", (event) => {
  const button = event.target.closest("[data-hold]");
  if (button) hold(button);
});
for (const end of ["pointerup", "pointercancel"]) document.addEventListener(end, release);
document.addEventListener("contextmenu", (event) => { if (event.target.closest("[data-hold]")) event.preventDefault(); });

const primary = () => [...document.querySelectorAll("[data-primary]")].find((button) => !button.hidden);

document.addEventListener("keydown", (event) => {
  if (!document.body.classList.contains("raw")) return;
  if (event.key === "ArrowLeft") document.querySelector("[data-back]")?.click();
  if (event.key === "ArrowRight") document.querySelector("[data-next]")?.click();
  if (event.key !== " ") return;
  event.preventDefault();
  if (!event.repeat && !holding && primary()) hold(primary());
});

document.addEventListener("keyup", (event) => {
  if (event.key !== " " || !document.body.classList.contains("raw")) return;
  event.preventDefault();
  const tapped = holding?.button;
  release();
  // A tap on Undo says: it stays done, go on.
  if (tapped?.hasAttribute("data-undo")) endUndo();
});

/* ---------- undo stays for ten seconds, then the next step's button takes its place ---------- */
let undoTimer = null;

const endUndo = () => {
  clearTimeout(undoTimer);
  document.querySelector("[data-undo]")?.remove();
  for (const button of document.querySelectorAll(".hands-done[hidden]")) button.hidden = false;
};

const startUndo = () => {
  clearTimeout(undoTimer);
  if (document.querySelector("[data-undo]")) undoTimer = setTimeout(endUndo, UNDO_MS);
};

/* ---------- sound: short, and quiet at night ---------- */
let audio = null;
const chime = (pitch) => {
  if (document.querySelector('[data-night="true"]')) return;
  try {
    audio = audio || new AudioContext();
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.2, audio.currentTime);
    loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.35);
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.36);
  } catch {
    // A browser without sound still shows the colour.
  }
};

/* ---------- the standing out-of-refrigerator clock ---------- */
const tickClocks = () => {
  for (const clock of document.querySelectorAll("[data-out-since]")) {
    const ms = Date.now() - Number(clock.dataset.outSince) + Number(clock.dataset.outBase);
    const minutes = Math.max(0, Math.floor(ms / 60000));
    const words = minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
    clock.querySelector("[data-out-words]").textContent = words;
    clock.querySelector("progress").value = Math.min(minutes, 120);
    clock.classList.toggle("late", minutes > 120);
  }
};
setInterval(tickClocks, 5000);

/* ---------- the screen stays awake while hands are raw, where the browser allows ---------- */
const canStayAwake = "wakeLock" in navigator;
const stayAwake = async () => {
  if (!document.body.classList.contains("raw") || !canStayAwake) return;
  try {
    await navigator.wakeLock.request("screen");
  } catch {
    showWakeNote();
  }
};
const showWakeNote = () => { for (const note of document.querySelectorAll("[data-wake-note]")) note.hidden = false; };
document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible") stayAwake(); });

/* ---------- once, and after every swap ---------- */
const settle = () => {
  startUndo();
  if (document.querySelector("[data-light]") !== walk?.face) beginWalk();
  tickClocks();
  if (!canStayAwake) showWakeNote();
};
document.addEventListener("htmx:after:swap", settle);
document.addEventListener("DOMContentLoaded", () => {
  const zone = document.querySelector("[data-time-zone]");
  if (zone) zone.value = Intl.DateTimeFormat().resolvedOptions().timeZone || "";
  settle();
  stayAwake();
});
