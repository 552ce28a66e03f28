// One stroke a station.
const isTyping = (at) => at.closest("input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select");
Alpine.data("stationKeys", () => ({
  keys: {
    "x-on:keydown.window"() {
      const { key, target, ctrlKey, metaKey, altKey } = this.$event;
      if (ctrlKey || metaKey || altKey || isTyping(target)) return;
      this.$root.querySelector(`[data-key="${CSS.escape(key)}"]`)?.click();
    },
  },
}));
