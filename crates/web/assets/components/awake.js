// The screen stays awake while hands are raw, where the browser allows; where not, the page says so.
Alpine.data("awake", () => ({
  asleep: !("wakeLock" in navigator),
  init() { this.ask(); },
  async ask() {
    if (this.asleep || !document.body.classList.contains("raw")) return;
    try {
      await navigator.wakeLock.request("screen");
    } catch {
      this.asleep = true;
    }
  },
  waking: {
    "x-on:visibilitychange.document"() { if (document.visibilityState === "visible") this.ask(); },
    "x-bind:hidden"() { return !this.asleep; },
  },
}));
