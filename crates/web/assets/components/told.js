// What others do is on this page within seconds: a stream tells that something changed, and the page's own part is asked anew.
// A page that is hidden listens to nothing; shown again it looks first. What is being typed or held is not taken from under a
// finger: then a line says who did something, with a button that shows it.
const PARTS = ["#cellar", "#piece", "#hands", "#salt-station", "#chill"];
const SAID_MS = 12000;
// What this page itself has just sent is on it already.
const OWN_MS = 5000;
// What nobody is named for is looked up again so soon.
const QUIET_MS = 1500;
Alpine.data("told", () => ({
  stream: null,
  says: "",
  waits: false,
  hush: null,
  later: null,
  showing: null,
  sent: -OWN_MS,
  init() {
    this.showing = () => (document.hidden ? this.close() : this.open(true));
    document.addEventListener("visibilitychange", this.showing);
    if (!document.hidden) this.open(false);
  },
  destroy() {
    document.removeEventListener("visibilitychange", this.showing);
    clearTimeout(this.later);
    this.close();
  },
  close() {
    this.stream?.close();
    this.stream = null;
  },
  open(look) {
    if (this.stream) return;
    let first = !look;
    this.stream = new EventSource("/told");
    // Whatever happened while nobody listened is looked up once there is a stream again.
    this.stream.onopen = () => { if (!first) this.anew(""); first = false; };
    this.stream.addEventListener("changed", ({ data }) => this.anew(JSON.parse(data).says));
  },
  part() { return PARTS.map((which) => document.querySelector(which)).find((part) => part); },
  busy(part) {
    const at = document.activeElement;
    if (part.contains(at) && at.matches("input, textarea, select")) return true;
    if (part.querySelector(".holding, .unsent, [data-undo]")) return true;
    return [...part.querySelectorAll("input:not([type=hidden]), textarea")].some((field) => field.value !== field.defaultValue);
  },
  anew(says) {
    if (!says && performance.now() - this.sent < OWN_MS) return;
    const part = this.part();
    this.say(says);
    const busy = part !== undefined && this.busy(part);
    // Where there is nobody to name it is no news: it waits until the finger has let go, and no line comes in under it.
    if (busy && !says && !this.waits) {
      clearTimeout(this.later);
      this.later = setTimeout(() => this.anew(""), QUIET_MS);
      return;
    }
    this.waits = busy;
    if (part && !busy) this.show();
  },
  show() {
    this.waits = false;
    const part = this.part();
    htmx.ajax("GET", window.location.pathname + window.location.search, { target: part, swap: "outerMorph" });
  },
  say(says) {
    if (!says) return;
    this.says = says;
    clearTimeout(this.hush);
    this.hush = setTimeout(() => { if (!this.waits) this.says = ""; }, SAID_MS);
  },
  // Word of it may be here before its own answer is.
  own(event) { if (event.detail.ctx.request?.method?.toUpperCase() === "POST") this.sent = performance.now(); },
  listening: {
    "x-on:htmx:before:request.document"() { this.own(this.$event); },
    "x-on:htmx:after:request.document"() { this.own(this.$event); },
  },
  line: { "x-bind:hidden"() { return !this.says && !this.waits; } },
  words: { "x-text"() { return this.says || "Something changed meanwhile."; } },
  look: {
    "x-bind:hidden"() { return !this.waits; },
    "x-on:click"() { this.show(); this.says = ""; },
  },
}));
