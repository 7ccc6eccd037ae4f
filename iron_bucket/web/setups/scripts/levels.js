// Lamps in the table: the sliders (data-level), switches (data-switch) and solo (data-solo).
import { board, inTurn, keep, open, tryOut } from "./board.js";
import { soloLight, soloed } from "./light.js";

const lampSet = (piece_id, to, was) => ({ operation: "set", where: "lamps", piece_id, to, was });
const sliderOf = (piece) => document.querySelector(`[data-level="${CSS.escape(piece)}"]`);
const levelOf = (slider) => Number(slider.dataset.was);
const lowestOf = (slider) => Number(slider.dataset.lowest);
// The scale is in tenths of a stop under full.
const shownBy = (slider) => Math.max(2 ** (Number(slider.value) / 10), lowestOf(slider));
const levelSet = (slider, level) =>
  lampSet(slider.dataset.level, { level: Math.round(level * 1e4) / 1e4 }, { level: levelOf(slider) });

export const dim = (piece, stops) =>
  keep(() => {
    const slider = sliderOf(piece);
    return slider && [levelSet(slider, Math.min(Math.max(levelOf(slider) * 2 ** stops, lowestOf(slider)), 1))];
  }, piece);

export const switchLamp = (piece) =>
  keep(() => {
    const node = document.querySelector(`[data-switch="${CSS.escape(piece)}"]`);
    const isOn = Boolean(node?.dataset.on);
    return node && [lampSet(piece, { is_on: !isOn }, { is_on: isOn })];
  }, piece);

// Kept nowhere: the levels and the light with one lamp alone, and back at the second press.
const solo = async (piece) => {
  if (soloed() === piece) {
    return inTurn(() => open(board().dataset.chosen || "camera"));
  }
  const lamps = [...document.querySelectorAll("[data-switch]")].map((each) => each.dataset.switch);
  soloLight(piece);
  await tryOut(
    lamps.map((lamp) => lampSet(lamp, { is_on: lamp === piece })),
    () => true,
  );
  document.querySelector(`[data-solo="${CSS.escape(piece)}"]`)?.setAttribute("aria-pressed", "true");
};

export const attachLevels = () => {
  document.addEventListener("input", (event) => {
    if (!event.target.dataset?.level) return;
    event.target.nextElementSibling.textContent = `${(shownBy(event.target) * 100).toPrecision(2)} %`;
  });
  document.addEventListener("change", (event) => {
    const slider = event.target;
    if (slider.dataset?.level) keep(() => [levelSet(slider, shownBy(slider))]);
  });
  document.addEventListener("click", (event) => {
    const { dataset } = event.target.closest?.("[data-switch], [data-solo]") ?? {};
    if (dataset?.switch) switchLamp(dataset.switch);
    if (dataset?.solo) solo(dataset.solo);
  });
};
