// A new household's clock is asked of the browser; what was typed stays.
Alpine.data("timeZone", () => ({
  init() { this.$el.value ||= Intl.DateTimeFormat().resolvedOptions().timeZone || ""; },
}));
