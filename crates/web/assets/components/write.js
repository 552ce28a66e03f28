// Writes into a field as a hand would: whoever listens hears of it.
Alpine.magic("write", () => (field, text) => {
  field.value = text;
  field.dispatchEvent(new Event("input", { bubbles: true }));
});
