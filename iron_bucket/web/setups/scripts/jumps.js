// From place to place by key: the form of what is chosen and back, the next mark, the next miss. Reads data-jump of
// buttons; changes focus, and data-drawer of the page, under which the form lies over the ladder.
import { board } from "./board.js";
import { markOf } from "./pieces.js";

const page = document.documentElement;
const form = () => document.querySelector("[data-inspector]");
const firstField = () => form()?.querySelector("form input:not([type=hidden]), form select, form textarea");

const close = () => {
  delete page.dataset.drawer;
  markOf(board().dataset.chosen)?.focus();
};
export const openForm = () => {
  page.dataset.drawer = "exact";
  firstField()?.focus();
};
const next = (selector) => {
  const nodes = [...document.querySelectorAll(selector)];
  const at = nodes.findIndex((node) => node === document.activeElement);
  const node = nodes[(at + 1) % nodes.length];
  node?.focus();
  return node;
};

const jumps = {
  exact: () => (page.dataset.drawer ? close() : openForm()),
  mark: () => next("#throw-plan :is([data-where=people], [data-where=spots])"),
  miss: () => next("#misses button")?.click(),
  table: () => {
    document.getElementById("who").scrollIntoView();
    document.querySelector("#who [tabindex]").focus();
  },
};

export const attachJumps = () => {
  document.addEventListener("click", (event) => {
    jumps[event.target.closest?.("[data-jump]")?.dataset.jump]?.();
  });
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && page.dataset.drawer && form()?.contains(event.target)) close();
  });
};
