// Handles on a face: dragged by pointer, moved by arrow keys; the field they stand for follows. A place or a string has no field
// of its own: what moved is said to the server, which writes it into the words.
const MOVED_MS = 120;
const ARROWS = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
const number = (handle, name) => Number(handle.dataset[name]);
const between = (handle, value) => {
  const [least, most] = ["aria-valuemin", "aria-valuemax"].map((bound) => Number(handle.getAttribute(bound)));
  return Math.round(Math.min(Math.max(value, least), most));
};

/* Millimetres of the face under a pointer. */
const faceAt = (handle, event) => {
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(handle.closest("svg").getScreenCTM().inverse());
  return { x: at.x - number(handle, "x0"), y: number(handle, "y0") - at.y };
};

Alpine.data("handles", () => ({
  drag: null,
  /* What was last said of a place or string and is not answered yet. */
  said: "",
  /* Writes where a handle stands now; `told` is the event that asks the server. */
  put(handle, along, across, told) {
    const { field } = handle.dataset;
    // The next stroke of a key may come before the answer: it counts from here.
    handle.setAttribute("aria-valuenow", String(along));
    if (handle.dataset.axis === "xy") handle.dataset.across = String(across);
    const own = this.$root.querySelector(`#c-${CSS.escape(field)}`);
    const input = own || this.$root.querySelector("#c-moved");
    if (!own) this.said = `${field} ${along} ${across}`;
    input.value = own ? `${along} mm` : this.said;
    if (told) input.dispatchEvent(new Event(told, { bubbles: true }));
  },
  /* The picture is swapped while a handle is dragged: it is found anew by its id. */
  dragged() { return this.drag && document.getElementById(this.drag.id); },
  grab() {
    const handle = this.$event.target.closest(".handle");
    if (!handle) return;
    this.$event.preventDefault();
    handle.focus();
    handle.classList.add("dragged");
    const frame = handle.closest("svg").getAttribute("viewBox");
    this.drag = { id: handle.id, pointer: this.$event.pointerId, told: 0, frame, y0: number(handle, "y0") };
  },
  move() {
    const handle = this.dragged();
    if (!handle || this.$event.pointerId !== this.drag.pointer) return;
    this.$event.preventDefault();
    const { axis, scale } = handle.dataset;
    const at = faceAt(handle, this.$event);
    const value = between(handle, ((axis === "y" ? at.y : at.x) - number(handle, "origin")) * number(handle, "factor"));
    const [, x, y] = /translate\(([-\d.]+)[ ,]([-\d.]+)\)/.exec(handle.getAttribute("transform"));
    const to = [axis === "y" ? x : at.x + number(handle, "x0"), axis === "x" ? y : number(handle, "y0") - at.y];
    handle.setAttribute("transform", `translate(${to[0]} ${to[1]}) scale(${scale})`);
    // The numbers follow while it moves, and once more when it is let go.
    const due = performance.now() - this.drag.told > MOVED_MS;
    if (due) this.drag.told = performance.now();
    this.drag.last = [value, Math.round(at.y)];
    this.put(handle, ...this.drag.last, due ? "moved" : null);
  },
  drop() {
    const [handle, last] = [this.dragged(), this.drag?.last];
    this.drag = null;
    handle?.classList.remove("dragged");
    // An answer to an earlier place may have written the field meanwhile: where the hand let go is what counts.
    if (handle && last) this.put(handle, ...last, "moved");
  },
  step() {
    const handle = this.$event.target.closest?.(".handle");
    const arrow = handle && ARROWS[this.$event.key];
    if (!arrow) return;
    this.$event.preventDefault();
    const [right, up] = arrow.map((way) => way * (this.$event.shiftKey ? 10 : 1));
    const free = handle.dataset.axis === "xy";
    // Any arrow makes a measure larger or smaller: right and up, left and down.
    const value = between(handle, Number(handle.getAttribute("aria-valuenow")) + right + (free ? 0 : up));
    const across = Math.round(Number(handle.dataset.across || 0) + up);
    this.put(handle, value, across, "input");
  },
  settle() {
    const [moved, words] = ["#c-moved", "#c-avoid"].map((field) => this.$root.querySelector(field));
    if (this.said) {
      words.value = words.getAttribute("value");
      // The server says what it has answered: a stroke of the key may have come since.
      if (moved.value === this.said && !this.drag) this.said = "";
      moved.value = this.said;
    }
    // While it is dragged a new picture keeps the old frame: else the face would grow under the hand and run away from it.
    const handle = this.dragged();
    if (!handle) return;
    const [, , wide, tall] = this.drag.frame.split(" ");
    handle.closest("svg").setAttribute("viewBox", `0 ${number(handle, "y0") - this.drag.y0} ${wide} ${tall}`);
    handle.classList.add("dragged");
  },
  handling: {
    "x-on:pointerdown"() { this.grab(); },
    // A finger on a handle drags it and does not move the page; inside a picture touch-action alone does not say so.
    "x-on:touchstart"() { if (this.$event.target.closest(".handle")) this.$event.preventDefault(); },
    "x-on:pointermove.window"() { this.move(); },
    // A finger's last way may come with its letting go only.
    "x-on:pointerup.window"() { this.move(); this.drop(); },
    "x-on:pointercancel.window"() { this.drop(); },
    "x-on:keydown"() { this.step(); },
    "x-on:htmx:after:swap.document"() { this.settle(); },
  },
}));
