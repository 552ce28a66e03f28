// The Bench's sentence: Enter in a word answers and does not keep the plan by accident.
Alpine.data("sentence", () => ({
  saying: {
    "x-on:keydown.enter"() { if (this.$event.target.matches(".said")) this.$event.preventDefault(); },
  },
}));
