// A way out is shown on ladder, table and light while it is pointed at or focused, and kept only when it is taken.
// Reads data-previews; changes #contrast, #lamps, #who and #ghosts for that while, and puts them back.
import { isNewBoard, tryOut } from "./board.js";
import { relight, showLight } from "./light.js";

const PARTS = ["contrast", "lamps", "who"];
const SOON_MS = 90;
let shown = null; // the way that is pointed at
let before = null; // the parts as they were kept
let timer = 0;

const isShown = (node) => () => shown === node && node.isConnected;

const show = (node) => {
  if (shown === node) return;
  shown = node;
  before ??= PARTS.map((id) => document.getElementById(id).cloneNode(true));
  clearTimeout(timer);
  timer = setTimeout(() => {
    if (shown !== node) return;
    const changes = JSON.parse(node.dataset.previews);
    tryOut(changes, isShown(node), { ghosts: "yes" });
    showLight(changes, isShown(node));
  }, SOON_MS);
};

const hide = () => {
  if (!shown) return;
  shown = null;
  clearTimeout(timer);
  for (const part of before) document.getElementById(part.id)?.replaceWith(part);
  before.forEach((part) => htmx.process(part));
  before = null;
  document.getElementById("ghosts")?.replaceChildren();
  relight();
};

export const attachWays = () => {
  const near = (event) => event.target.closest?.("[data-previews]");
  for (const name of ["pointerover", "focusin"]) {
    document.addEventListener(name, (event) => (near(event) ? show(near(event)) : hide()));
  }
  // What it shows becomes what is kept, or a new board came that shows neither.
  const forget = () => {
    shown = null;
    before = null;
  };
  document.addEventListener("submit", forget);
  document.addEventListener("htmx:after:swap", (event) => {
    if (isNewBoard(event)) forget();
  });
  document.addEventListener("click", (event) => {
    if (!event.target.closest?.("[data-closes-ways]")) return;
    hide();
    document.getElementById("ways").replaceChildren();
  });
};
