// Undo stands apart from Done, for ten seconds.
const UNDO_MS = 10000;
Alpine.data("undo", () => ({
  gone: false,
  timer: null,
  init() { this.timer = setTimeout(() => this.$root.remove(), UNDO_MS); },
  destroy() { clearTimeout(this.timer); },
}));
