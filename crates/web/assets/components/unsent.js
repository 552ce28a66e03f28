// What could not be delivered is said where the finger was, kept on the page and tried again until it is in or refused. Each tap
// has an id, so that one whose answer was lost is noted once; and it says how long ago it was.
const AGAIN_MS = 3000;
const NOT_IN = [408, 429, 502, 503, 504];
const SAYS = "Not delivered: the server does not answer. It is kept here and tried again.";
const uuid = () => {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x70;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
};
Alpine.data("unsent", () => ({
  // By the element that was tapped: id of the tap, when by both clocks, what it was, the line beside it.
  taps: new Map(),
  again: null,
  destroy() { clearInterval(this.again); },
  // A clock runs only while something waits.
  waits() {
    if (this.taps.size > 0) {
      this.again ??= setInterval(() => this.tryAll(), AGAIN_MS);
    } else {
      clearInterval(this.again);
      this.again = null;
    }
  },
  posts(request) { return request?.method?.toUpperCase() === "POST"; },
  // Polls say nothing of themselves: only what a hand sent.
  byHand({ sourceElement, sourceEvent }) {
    const polls = sourceElement?.getAttribute?.("hx-trigger") ?? "";
    return !(polls.startsWith("every") || polls.startsWith("input")) && sourceEvent && sourceEvent.type !== "load";
  },
  ago(tap) { return Math.max(performance.now() - tap.mono, Date.now() - tap.wall, 0); },
  missed(element, event) {
    const tap = this.taps.get(element) ?? { id: uuid(), mono: performance.now(), wall: Date.now() };
    Object.assign(tap, { type: event.type, busy: false, tries: (tap.tries ?? 0) + 1 });
    if (!tap.line?.isConnected) {
      tap.line = document.createElement("p");
      tap.line.className = "unsent";
      tap.line.setAttribute("role", "alert");
      tap.line.textContent = SAYS;
      (element.closest("form") ?? element).after(tap.line);
    }
    this.taps.set(element, tap);
    this.waits();
  },
  arrived(element) {
    this.taps.get(element)?.line?.remove();
    this.taps.delete(element);
    this.waits();
  },
  tryAll() {
    for (const [element, tap] of this.taps) {
      if (!element.isConnected) { this.arrived(element); continue; }
      if (tap.busy) continue;
      tap.busy = true;
      if (tap.plain) this.reach(element, tap);
      else element.dispatchEvent(new CustomEvent(tap.type, { bubbles: true, cancelable: true }));
    }
  },
  // A form that leads to another page is sent by the browser itself, once the server is there.
  async reach(form, tap) {
    const there = await fetch("/health", { cache: "no-store", signal: AbortSignal.timeout(4000) }).then((answer) => answer.ok, () => false);
    if (there) {
      const { submitter } = tap;
      this.arrived(form);
      form.dataset.reached = "";
      form.requestSubmit(submitter?.isConnected ? submitter : undefined);
      delete form.dataset.reached;
    } else {
      this.missed(form, { type: "submit" });
      Object.assign(this.taps.get(form), { plain: true, submitter: tap.submitter });
    }
  },
  listening: {
    "x-on:htmx:config:request.document"() {
      const { ctx } = this.$event.detail;
      if (!this.posts(ctx.request)) return;
      const tap = this.taps.get(ctx.sourceElement);
      ctx.tap = tap?.id ?? uuid();
      ctx.request.headers["Tap-Id"] = ctx.tap;
      if (tap) ctx.request.headers["Tapped-Ago"] = String(Math.round(this.ago(tap)));
    },
    "x-on:htmx:before:response.document"() {
      const { ctx } = this.$event.detail;
      if (NOT_IN.includes(ctx.response.status) && this.byHand(ctx)) {
        this.$event.preventDefault();
        this.lost(ctx);
      } else {
        this.arrived(ctx.sourceElement);
      }
    },
    "x-on:htmx:error.document"() {
      const { ctx } = this.$event.detail;
      if (ctx && !ctx.response && this.byHand(ctx)) this.lost(ctx);
    },
    "x-on:submit.document"() {
      const form = this.$event.target;
      const plain = form.method === "post" && !form.hasAttribute("hx-post") && form.dataset.reached === undefined;
      if (!plain || this.$event.defaultPrevented) return;
      this.$event.preventDefault();
      if (!this.taps.has(form)) this.reach(form, { submitter: this.$event.submitter });
    },
  },
  lost(ctx) {
    this.missed(ctx.sourceElement, ctx.sourceEvent);
    const tap = this.taps.get(ctx.sourceElement);
    if (ctx.tap) tap.id = ctx.tap;
  },
}));
