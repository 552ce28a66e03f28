// The browser's own calendar beside a word: what is picked there is written into the word.
Alpine.data("calendar", () => ({
  picking: {
    // Its own events are nobody else's: the word speaks for it.
    "x-on:input.stop"() {},
    "x-on:change.stop"() {
      const picked = this.$el.value.replace("T", " ");
      if (picked) this.$write(document.getElementById(this.$el.dataset.pick), picked);
    },
  },
}));
