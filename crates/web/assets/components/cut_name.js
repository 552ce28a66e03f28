// A cut by another name: read once it is typed to its end, or tapped, not letter by letter.
Alpine.data("cutName", () => ({
  send() { this.$el.closest("form").requestSubmit(); },
  named: {
    "x-on:input"() {
      this.$event.stopPropagation();
      if (!this.$event.isTrusted) this.send();
    },
    "x-on:change"() { this.send(); },
    "x-on:keydown.enter"() { this.send(); },
  },
}));
