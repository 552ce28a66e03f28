// What the scale shows goes into the field beside it; a number typed by hand is not the scale's.
Alpine.data("fromScale", () => ({
  taking: {
    "x-on:click"() {
      const { take, into } = this.$el.dataset;
      const field = document.getElementById(into);
      const alone = field.dataset.one !== undefined;
      this.$write(field, alone ? take : `${field.value} ${take}`.trim());
      field.dispatchEvent(new CustomEvent("taken"));
    },
  },
}));
Alpine.data("weighed", () => ({
  weighing: {
    "x-on:input"() { this.from(""); },
    "x-on:taken"() { this.from("scale"); },
  },
  from(what) { document.getElementById(this.$el.dataset.from).value = what; },
}));
