// A link of this server that names no server: the browser knows where it found the page.
Alpine.data("ownAddress", () => ({
  shown: {
    "x-init"() {
      const link = this.$el.textContent.trim();
      if (link.startsWith("/")) this.$el.textContent = window.location.origin + link;
    },
  },
}));
