// While a new light is asked for, a press on the plan says what it is for. Reads [data-new-light]; changes its `at`.
import { toMetres } from "./pieces.js";

const asked = () => document.querySelector("[data-new-light] form");

const point = (event) => {
  const plan = event.target.closest?.("#throw-plan");
  if (!plan || !asked()) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  const at = toMetres(new DOMPoint(event.clientX, event.clientY).matrixTransform(plan.getScreenCTM().inverse()));
  const { at: select } = asked().elements;
  const value = `${at.x.toFixed(2)},${at.y.toFixed(2)}`;
  select.add(new Option("where you pointed", value, true, true));
  select.dispatchEvent(new Event("change", { bubbles: true }));
};

export const attachPointing = () => document.addEventListener("click", point, { capture: true });
