// A short tone, and none at night.
let audio = null;
Alpine.magic("chime", (el) => (pitch) => {
  if (el.closest('[data-night="true"]')) return;
  try {
    audio = audio || new AudioContext();
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.2, audio.currentTime);
    loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.35);
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.36);
  } catch {
    // A browser without sound still shows the colour.
  }
});
