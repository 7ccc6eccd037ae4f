// Lamps that play an effect, on the plan: begun and paused by a button, so that nothing
// moves for who has asked for less motion. Changes the opacity of pieces on the plan and [data-effects-run].
const STEP_MS = 100;
let running = [];

const show = () => {
  for (const button of document.querySelectorAll("[data-effects-run]")) {
    button.setAttribute("aria-pressed", String(running.length > 0));
    button.textContent = running.length > 0 ? "pause" : "play on the plan";
  }
};

const stop = () => {
  for (const each of running) each.cancel();
  running = [];
};

const play = (levels) =>
  Object.entries(levels).flatMap(([piece, several]) => {
    const drawn = document.getElementById(`piece-${piece}`);
    if (!drawn) return [];
    const frames = several.map((level) => ({ opacity: Math.max(level, 0.08), easing: "steps(1)" }));
    return [drawn.animate(frames, { duration: several.length * STEP_MS, iterations: Infinity })];
  });

export const attachEffects = () => {
  document.addEventListener("click", (event) => {
    const button = event.target.closest?.("[data-effects-run]");
    if (!button) return;
    const isOn = running.length > 0;
    stop();
    if (!isOn) running = play(JSON.parse(button.closest("[data-effects]").dataset.effects));
    show();
  });
  // A board that was put in anew has other pieces; other swaps leave them burning.
  document.addEventListener("htmx:after:swap", () => {
    if (running.every((each) => each.effect.target.isConnected)) return;
    stop();
    show();
  });
};
