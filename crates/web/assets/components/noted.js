// What was noted is noted: the form it came from shows what the server says, nothing typed before.
Alpine.data("noted", () => ({
  noting: {
    "x-on:htmx:after:swap.document"() {
      const { request } = this.$event.detail.ctx;
      if (request?.method?.toUpperCase() !== "POST") return;
      const form = `form[hx-post="${CSS.escape(request.action)}"]`;
      for (const field of this.$root.querySelectorAll(`${form} input:not([type])`)) field.value = field.getAttribute("value");
    },
  },
}));
