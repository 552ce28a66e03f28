// A reading that is offered takes the word's place; an empty one lets the house choose again.
Alpine.data("offer", () => ({
  offered: {
    "x-on:click.prevent"() {
      const { say, into } = this.$el.dataset;
      const word = document.getElementById(into);
      this.$write(word, say);
      if (word.type !== "hidden") word.focus();
    },
  },
}));
