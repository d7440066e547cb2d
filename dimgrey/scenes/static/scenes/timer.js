// The exposure timer: it keeps the moment it was started, so a reload or a sleeping phone loses nothing.
const KEY = "dimgrey-timer";

const read = () => {
  try {
    return JSON.parse(localStorage.getItem(KEY));
  } catch {
    return null;
  }
};
const clock = (seconds) => {
  const whole = Math.ceil(Math.abs(seconds));
  const text = whole >= 60 ? `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}` : `${whole} s`;
  return seconds < 0 ? `+${text}` : text;
};

export function timer() {
  return {
    running: false,
    text: "",
    words: "",
    over: false,
    init() {
      document.addEventListener("click", (event) => {
        const button = event.target.closest("#start-timer");
        if (button) this.start(Number(button.dataset.seconds));
      });
      document.addEventListener("visibilitychange", () => this.tick());
      if (read()) this.resume();
    },
    start(seconds) {
      localStorage.setItem(KEY, JSON.stringify({ from: Date.now(), seconds, page: location.pathname }));
      this.resume();
    },
    resume() {
      this.running = true;
      this.tick();
      clearInterval(this.beat);
      this.beat = setInterval(() => this.tick(), 200);
    },
    tick() {
      const kept = read();
      if (!kept) {
        this.stop();
        return;
      }
      const left = kept.seconds - (Date.now() - kept.from) / 1000;
      const ended = left <= 0;
      this.text = clock(left);
      this.words = ended ? "Close the shutter." : "Shutter open.";
      if (ended && !this.over && navigator.vibrate) navigator.vibrate([300, 100, 300]);
      this.over = ended;
    },
    stop() {
      clearInterval(this.beat);
      localStorage.removeItem(KEY);
      this.running = this.over = false;
    },
  };
}
