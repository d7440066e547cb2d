// The exposure timer: it keeps the moment it was started, so a reload or a sleeping phone loses nothing. A delay gives
// time to step back from the tripod; sound and a screen that stays awake serve a timer that nobody looks at.
const KEY = "dimgrey-timer",
  WISHES = "dimgrey-timer-wishes",
  HIGH_HZ = 880,
  LOW_HZ = 440;

const read = (key) => {
  try {
    return JSON.parse(localStorage.getItem(key));
  } catch {
    return null;
  }
};
const clock = (seconds) => {
  const whole = Math.ceil(Math.abs(seconds));
  const text = whole >= 60 ? `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}` : `${whole} s`;
  return seconds < 0 ? `+${text}` : text;
};

// What the timer says at a moment: waiting, open or over, and how long still.
export function stateAt({ from, delay = 0, seconds }, now) {
  const since = (now - from) / 1000 - delay;
  if (since < 0) return { name: "waiting", left: -since, words: "Stand back: the shutter opens soon." };
  const left = seconds - since;
  return left > 0
    ? { name: "open", left, words: "Shutter open." }
    : { name: "over", left, words: "Close the shutter." };
}

export function timer() {
  return {
    running: false,
    text: "",
    words: "",
    name: "",
    awake: null,
    sound: null,
    init() {
      document.addEventListener("click", (event) => {
        const button = event.target.closest("#start-timer");
        if (button) this.start(Number(button.dataset.seconds));
      });
      document.addEventListener("change", (event) => {
        if (event.target.matches("#timer-delay, #timer-sound")) this.keepWishes();
      });
      document.addEventListener("visibilitychange", () => {
        this.tick();
        if (this.running && document.visibilityState === "visible") this.stayAwake();
      });
      document.addEventListener("desk:changed", () => this.showWishes());
      this.showWishes();
      if (read(KEY)) this.resume();
    },
    wishes() {
      return { delay: 0, sound: false, ...read(WISHES) };
    },
    keepWishes() {
      const delay = Number(document.getElementById("timer-delay").value),
        sound = document.getElementById("timer-sound").checked;
      localStorage.setItem(WISHES, JSON.stringify({ delay, sound }));
    },
    showWishes() {
      const delay = document.getElementById("timer-delay");
      if (!delay) return;
      const wishes = this.wishes();
      delay.value = String(wishes.delay);
      document.getElementById("timer-sound").checked = wishes.sound;
    },
    start(seconds) {
      const { delay, sound } = this.wishes();
      localStorage.setItem(KEY, JSON.stringify({ from: Date.now(), delay, sound, seconds, page: location.pathname }));
      // A browser lets a page sound only from the press of a button on.
      if (sound) this.sound ??= new AudioContext();
      this.resume();
    },
    resume() {
      this.running = true;
      this.stayAwake();
      this.tick();
      clearInterval(this.beat);
      this.beat = setInterval(() => this.tick(), 200);
    },
    async stayAwake() {
      try {
        this.awake = await navigator.wakeLock?.request("screen");
      } catch {
        this.awake = null; // the phone may refuse, on a low battery
      }
    },
    tick() {
      const kept = read(KEY);
      if (!kept) {
        this.stop();
        return;
      }
      const { name, left, words } = stateAt(kept, Date.now());
      this.text = clock(left);
      this.words = words;
      if (this.name && name !== this.name) this.tell(name, kept.sound);
      this.name = name;
    },
    tell(name, sound) {
      if (navigator.vibrate) navigator.vibrate(name === "over" ? [300, 100, 300] : 200);
      if (sound) this.beep(name === "over" ? LOW_HZ : HIGH_HZ);
    },
    beep(hertz) {
      if (!this.sound) return;
      const tone = this.sound.createOscillator(),
        volume = this.sound.createGain();
      tone.frequency.value = hertz;
      volume.gain.value = 0.2;
      tone.connect(volume).connect(this.sound.destination);
      tone.start();
      tone.stop(this.sound.currentTime + 0.4);
    },
    stop() {
      clearInterval(this.beat);
      localStorage.removeItem(KEY);
      this.awake?.release();
      this.running = false;
      this.name = "";
    },
  };
}
