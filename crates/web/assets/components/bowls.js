// A bowl that was weighed loses its field: the next one takes the hands.
Alpine.data("bowls", () => ({
  weighing: false,
  station: {
    "x-on:submit"() { this.weighing = this.$event.target.matches(".bowl-form"); },
    "x-on:htmx:after:swap.document"() {
      // While the field has the hands the answer is not here yet: what came is what the scale says.
      if (document.activeElement !== document.body) return;
      if (this.weighing) this.$root.querySelector(".slipped .said, .bowl-form .said")?.focus({ preventScroll: true });
      this.weighing = false;
    },
  },
}));
