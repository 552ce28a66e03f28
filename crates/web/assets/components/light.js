// The light over the face: it walks at the pace the server gave, and a reload finds it again.
const LOOK_MS = 250;
Alpine.data("light", () => ({
  strip: 0,
  timer: null,
  init() {
    const { lit, running, each } = this.$root.dataset;
    const since = performance.now();
    const look = () => {
      const seconds = Number(lit) + (running === "true" ? (performance.now() - since) / 1000 : 0);
      this.show(Math.floor(seconds / Number(each)));
    };
    look();
    if (running === "true") this.timer = setInterval(look, LOOK_MS);
  },
  destroy() { clearInterval(this.timer); },
  show(now) {
    const strips = this.$root.querySelectorAll("[data-stretch]");
    const begun = this.$root.querySelector("[data-stretch-now]") !== null;
    for (const strip of strips) {
      const i = Number(strip.dataset.stretch);
      strip.classList.toggle("past", i < now);
      strip.classList.toggle("lit", i === now && begun);
    }
    this.strip = Math.min(now + 1, strips.length);
  },
  at: {
    "x-text"() { return String(this.strip); },
  },
}));
