// A file that was chosen lies in the field below as its text: it can be read there, and is sent like any other.
Alpine.data("chosenFile", () => ({
  chosen: {
    "x-on:change"() {
      const [file] = this.$el.files;
      const text = this.$root.querySelector("[name=text]");
      if (file) file.text().then((read) => { text.value = read; });
    },
  },
}));
