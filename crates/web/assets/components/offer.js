// A reading that is offered takes the word's place; an empty one lets the house choose again. Some take two words.
Alpine.data("offer", () => ({
  offered: {
    "x-on:click.prevent"() {
      const { say, into, alsoSay, alsoInto } = this.$el.dataset;
      const word = document.getElementById(into);
      if (alsoInto) this.$write(document.getElementById(alsoInto), alsoSay);
      this.$write(word, say);
      if (word.type !== "hidden") word.focus();
    },
  },
}));
