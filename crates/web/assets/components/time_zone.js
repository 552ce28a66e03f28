// A new household's clock is asked of the browser.
Alpine.data("timeZone", () => ({
  init() { this.$el.value = Intl.DateTimeFormat().resolvedOptions().timeZone || ""; },
}));
