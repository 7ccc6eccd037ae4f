// What others change comes by htmx's own poll (#watch), but never over a drag, an answer on its way, or words that were
// typed and not yet sent or were just refused.
import { board } from "./board.js";
import { isDragging } from "./drags.js";

const underway = new Set();
const isWatch = (event) => event.detail.ctx.sourceElement.id === "watch";
const typed = "[data-inspector] input:not([type=hidden]):not([type=checkbox]), [data-inspector] textarea";
const hasUnsent = () =>
  board().querySelector("[data-refused]") !== null ||
  [...board().querySelectorAll(typed)].some((field) => field.value !== field.defaultValue);
const isBusy = () => isDragging() || underway.size > 0 || document.hidden || hasUnsent();

export const attachWatch = () => {
  document.addEventListener("htmx:before:request", (event) => {
    if (!isWatch(event)) underway.add(event.detail.ctx);
    else if (isBusy()) event.preventDefault();
  });
  document.addEventListener("htmx:finally:request", (event) => {
    underway.delete(event.detail.ctx);
  });
  document.addEventListener("htmx:before:swap", (event) => {
    if (isWatch(event) && isBusy()) event.preventDefault();
  });
};
