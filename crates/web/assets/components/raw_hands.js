// Keys while hands are raw: space holds the large button, backspace the undo, arrows turn to the step before and after.
Alpine.data("rawHands", () => ({
  say(which, event) {
    [...this.$root.querySelectorAll(which)].find((button) => !button.hidden)?.dispatchEvent(new CustomEvent(event));
  },
  held(key) { return { " ": "[data-primary]", Backspace: "[data-undo]" }[key]; },
  keys: {
    "x-on:keydown.window"() {
      const { key, repeat } = this.$event;
      if (key === "ArrowLeft") this.$root.querySelector("[data-back]")?.click();
      if (key === "ArrowRight") this.$root.querySelector("[data-next]")?.click();
      if (!this.held(key)) return;
      this.$event.preventDefault();
      if (!repeat) this.say(this.held(key), "key-down");
    },
    "x-on:keyup.window"() {
      if (!this.held(this.$event.key)) return;
      this.$event.preventDefault();
      this.say(this.held(this.$event.key), "key-up");
    },
  },
}));
