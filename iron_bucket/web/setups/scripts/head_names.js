// A new lamp by the letters of its name: the field asks for heads that are called so, the list under it offers them.
// Reads data-head of the options; changes #head-list, and puts the chosen one in.
import Combobox from "@github/combobox-nav";
import { inTurn, post } from "./board.js";

const input = () => document.getElementById("head-name");
const list = () => document.getElementById("head-list");
let combobox = null;

const close = () => {
  combobox?.destroy();
  combobox = null;
  if (!list()) return;
  list().hidden = true;
  input().setAttribute("aria-expanded", "false");
};
const open = () => {
  close();
  if (!input().value.trim()) return;
  list().hidden = false;
  combobox = new Combobox(input(), list(), { firstOptionSelectionMode: "selected", tabInsertsSuggestions: false });
  combobox.start();
};

export const attachHeadNames = () => {
  document.addEventListener("htmx:after:swap", (event) => {
    const target = event.detail.ctx.target;
    if (target?.id === "head-list") open();
    if (target?.id === "board") combobox = null;
  });
  document.addEventListener("combobox-commit", (event) => {
    const chosen = event.target.dataset.head;
    close();
    if (chosen) inTurn(() => post("/add/lamp", { chosen }));
  });
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && event.target === input()) close();
  });
  document.addEventListener("focusout", (event) => {
    if (event.target === input() && !list().contains(event.relatedTarget)) setTimeout(close, 200);
  });
};
