// A choice that opens more fields: those marked `opened` show while the choice that opens them is taken.
Alpine.data("choice", () => ({
  chosen: "",
  init() { this.read(); },
  read() { this.chosen = this.$root.querySelector("select").value; },
  choosing: {
    "x-on:change"() { this.read(); },
    "x-on:htmx:after:swap.document"() { this.read(); },
  },
  opened: {
    "x-bind:hidden"() { return this.chosen !== this.$el.dataset.when; },
  },
}));
