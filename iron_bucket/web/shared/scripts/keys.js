// Keys of every page. Reads data-key, data-keys, data-opens, data-does; changes only focus, dialogs and where the
// page is.
import { matchKeyBindingPress, parseKeybinding } from "tinykeys";
import { strokes } from "./strokes.js";

const named = { "?": "these keys", Escape: "close, or leave a field", "/": "to the first field" };
const dialog = () => document.getElementById("keys");

export const isTyping = (node) => node.closest("input:not([type=checkbox]), select, textarea, [contenteditable]");
const isPressed = (event, key) => strokes(key).some((each) => matchKeyBindingPress(event, parseKeybinding(each)[0]));

const rows = () => {
  const found = Object.entries(named);
  for (const node of document.querySelectorAll("[data-key]")) {
    const { key } = node.dataset;
    const words = (node.getAttribute("aria-label") || node.textContent).replace(/\s+/g, " ").trim();
    if (key !== "/") found.push([key, words.endsWith(` ${key}`) ? words.slice(0, -key.length - 1) : words]);
  }
  for (const node of document.querySelectorAll("[data-keys]"))
    found.push(...JSON.parse(node.dataset.keys.replace(/\s+/g, " ")));
  return found;
};

// The dialog waits in the page, with one row to be repeated.
const open = () => {
  const row = dialog().querySelector("template").content;
  const filled = rows().map(([key, words]) => {
    const one = row.cloneNode(true);
    one.querySelector("kbd").textContent = key;
    one.querySelector("dd").textContent = words;
    return one;
  });
  dialog().querySelector("dl").replaceChildren(...filled);
  dialog().showModal();
};

const toFirstField = () => {
  const field = document.querySelector("main input:not([type=hidden]), main select");
  field?.focus();
  field?.select?.();
};

const press = (event) => {
  if (event.key === "Escape" && isTyping(event.target)) event.target.blur();
  if (isTyping(event.target) || dialog().open) return;
  if (document.documentElement.dataset.singleKeys === "off" && !isPressed(event, "?") && event.key !== "Escape") return;
  const node = [...document.querySelectorAll("[data-key]")].find((each) => isPressed(event, each.dataset.key));
  const act = isPressed(event, "?") ? open : isPressed(event, "/") ? toFirstField : node && (() => node.click());
  if (!act) return;
  event.preventDefault();
  // A fast key can come before htmx has seen what it just put in; the form would leave the page.
  if (node) htmx.process(document.body);
  if (node?.matches("input, select")) node.focus();
  else act();
};

export const attachKeys = () => {
  document.addEventListener("keydown", press);
  document.addEventListener("click", (event) => {
    const { dataset } = event.target.closest("[data-opens], [data-does]") ?? {};
    if (dataset?.opens === "keys") open();
    if (dataset?.does === "print") window.print();
  });
};
