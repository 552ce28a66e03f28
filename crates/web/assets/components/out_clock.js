// The standing out-of-refrigerator clock. How long it was out at its answer the server says; from there this page counts by two
// clocks, the one that only runs forward and the one on the wall, and goes by the larger: neither a device that slept nor one
// whose clock was moved makes it shorter. On waking it asks anew.
const EVERY_MS = 5000;
// Two clocks that differ by more than this while the page was awake: somebody moved the one on the wall.
const MOVED_MS = 60000;
Alpine.data("outClock", () => ({
  minutes: 0,
  most: 0,
  moved: false,
  timer: null,
  mono: 0,
  wall: 0,
  last: 0,
  waking: null,
  init() {
    [this.mono, this.wall] = [performance.now(), Date.now()];
    this.last = this.mono;
    this.read();
    this.timer = setInterval(() => this.read(), EVERY_MS);
    this.waking = () => { if (!document.hidden) this.ask(); };
    document.addEventListener("visibilitychange", this.waking);
  },
  destroy() {
    clearInterval(this.timer);
    document.removeEventListener("visibilitychange", this.waking);
  },
  ask() { htmx.ajax("GET", this.$root.dataset.here + window.location.search, { target: "#hands", swap: "outerHTML" }); },
  read() {
    const [mono, wall] = [performance.now() - this.mono, Date.now() - this.wall];
    // Backward is never sleep; forward may be: the ticks of this page tell, which stop while it sleeps.
    const slept = performance.now() - this.last > 3 * EVERY_MS;
    if (mono - wall > MOVED_MS || (wall - mono > MOVED_MS && !slept)) this.moved = true;
    this.last = performance.now();
    const { out, outMost } = this.$root.dataset;
    this.most = Number(outMost);
    this.minutes = Math.max(0, Math.floor((Math.max(mono, wall) + Number(out)) / 60000));
  },
  clock: {
    "x-bind:class"() { return { late: this.minutes > this.most }; },
    "x-bind:data-minutes"() { return this.minutes; },
  },
  jump: {
    "x-bind:hidden"() { return !this.moved; },
  },
  words: {
    "x-text"() {
      const [h, min] = [Math.floor(this.minutes / 60), this.minutes % 60];
      return h === 0 ? `${min} min` : `${h} h ${String(min).padStart(2, "0")}`;
    },
  },
  bar: {
    "x-bind:value"() { return Math.min(this.minutes, this.most); },
  },
}));
