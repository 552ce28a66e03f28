// The standing out-of-refrigerator clock: from when on, and how long before that, the server says.
const EVERY_MS = 5000;
Alpine.data("outClock", () => ({
  minutes: 0,
  most: 0,
  timer: null,
  init() {
    this.read();
    this.timer = setInterval(() => this.read(), EVERY_MS);
  },
  destroy() { clearInterval(this.timer); },
  read() {
    const { outSince, outBase, outMost } = this.$root.dataset;
    this.most = Number(outMost);
    this.minutes = Math.max(0, Math.floor((Date.now() - Number(outSince) + Number(outBase)) / 60000));
  },
  clock: {
    "x-bind:class"() { return { late: this.minutes > this.most }; },
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
