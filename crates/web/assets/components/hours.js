// The hours: the slider writes the field that is sent.
Alpine.data("hours", () => ({
  sliding: {
    "x-on:input"() { this.$root.querySelector('input[name="hours"]').value = this.$el.value; },
  },
}));
