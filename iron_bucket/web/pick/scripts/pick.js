// Keys of the pick list. Reads which row is open or focused; opens rows, ticks, presses the row's own buttons.
import { tinykeys } from "tinykeys";
import { isTyping } from "../../shared/scripts/keys.js";

const rows = () => [...document.querySelectorAll("[data-fit]")];
const focused = () => document.activeElement.closest?.("[data-fit]");
const current = () => focused() || rows().find((row) => row.open);

const step = (by) => () => {
  const list = rows();
  const place = focused() ? list.indexOf(focused()) + by : 0;
  list[Math.min(Math.max(place, 0), list.length - 1)]?.querySelector("summary").focus();
};
const inRow = (act) => () => {
  if (current()) act(current());
};

const acts = {
  ArrowDown: step(1),
  ArrowUp: step(-1),
  b: inRow((row) => {
    row.open = true;
    row.querySelector("[name=purpose]")?.focus();
  }),
  c: inRow((row) => {
    const tick = row.querySelector("[name=with]");
    if (tick) tick.checked = !tick.checked;
  }),
  f: inRow((row) => {
    row.open = true;
    const figures = row.querySelector("[data-figures]");
    if (figures) figures.open = !figures.open;
  }),
};
const unlessTyping = (act) => (event) => {
  if (isTyping(event.target) || document.querySelector("dialog[open]") || !rows().length) return;
  event.preventDefault();
  act();
};
tinykeys(document, Object.fromEntries(Object.entries(acts).map(([key, act]) => [key, unlessTyping(act)])));
