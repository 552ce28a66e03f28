// Half a second of press, by knuckle or key, then the button says `held`, or leads away.
const HOLD_MS = 500;
Alpine.data("hold", () => ({
  timer: null,
  destroy() { this.release(); },
  press() {
    this.release();
    this.$root.classList.add("holding");
    this.timer = setTimeout(() => { this.release(); this.held(); }, HOLD_MS);
  },
  release() {
    clearTimeout(this.timer);
    this.timer = null;
    this.$root.classList.remove("holding");
  },
  held() {
    const { undo, leave } = this.$root.dataset;
    this.$chime(undo === undefined ? 660 : 330);
    if (leave) window.location.assign(leave);
    else this.$root.dispatchEvent(new CustomEvent("held", { bubbles: true }));
  },
  holding: {
    "x-on:pointerdown"() { this.press(); },
    "x-on:pointerup.window"() { this.release(); },
    "x-on:pointercancel.window"() { this.release(); },
    "x-on:contextmenu.prevent"() {},
    // The same from the keyboard: the page says which button a key holds.
    "x-on:key-down"() { if (!this.timer) this.press(); },
    "x-on:key-up"() { this.release(); },
  },
}));
