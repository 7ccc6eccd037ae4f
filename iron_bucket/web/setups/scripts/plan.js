// The hand on a set-up's plan: each module wires its part anew whenever htmx has put in a board.
import { board, isNewBoard } from "./board.js";
import { attachDrags } from "./drags.js";
import { attachEffects } from "./effects.js";
import { attachExactEntry } from "./exact_entry.js";
import { attachHeadNames } from "./head_names.js";
import { attachJumps } from "./jumps.js";
import { attachLevels } from "./levels.js";
import { attachLight, relight } from "./light.js";
import { attachPieceKeys } from "./piece_keys.js";
import { attachPointing } from "./pointing.js";
import { markOf } from "./pieces.js";
import { attachWatch } from "./watch.js";
import { attachWays } from "./ways.js";
import { attachZoom, followZoom } from "./zoom.js";

attachEffects();
attachExactEntry();
attachHeadNames();
attachJumps();
attachLevels();
attachLight();
attachPieceKeys();
attachPointing();
attachWatch();
attachWays();
attachZoom();
const refresh = () => {
  attachDrags();
  followZoom();
  relight();
};
refresh();
// A link to a piece, as from another pass, leads the keyboard to it.
if (new URLSearchParams(location.search).has("piece")) {
  markOf(board().dataset.chosen)?.focus({ preventScroll: true });
}
const sayLevels = () => {
  const [said, contrast] = ["said", "contrast"].map((id) => document.getElementById(id));
  const words = contrast?.dataset.says.replace(/\s+/g, " ");
  if (said && words && said.dataset.last !== words) said.textContent = words;
  if (said) said.dataset.last = words;
};
sayLevels();
document.addEventListener("htmx:after:swap", (event) => {
  sayLevels();
  if (isNewBoard(event)) refresh();
});
