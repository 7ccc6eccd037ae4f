// Keys on a focused piece of the plan, before those of the page.
import { tinykeys } from "tinykeys";
import { strokes } from "../../shared/scripts/strokes.js";
import { board, choose, copy, keep } from "./board.js";
import { openForm } from "./jumps.js";
import { dim, switchLamp } from "./levels.js";
import { changesFor, isLamp, isLocked, markOf, positionOf, rounded, setOf } from "./pieces.js";

const FOOT_M = 0.3048;
const isImperial = () => board().dataset.units === "imperial";
const smallStep = () => (isImperial() ? FOOT_M / 4 : 0.1);
const largeStep = () => (isImperial() ? FOOT_M : 1);

// Presses while an answer is on the way add up to one move, of as many pieces as were pressed for.
let steps = null;
const nudge = (mark, dx, dy, dz) => {
  const piece = mark.dataset.piece;
  const isWaiting = steps !== null;
  steps ??= new Map();
  const step = steps.get(piece) ?? { dx: 0, dy: 0, dz: 0 };
  steps.set(piece, { dx: step.dx + dx, dy: step.dy + dy, dz: step.dz + dz });
  if (isWaiting) return;
  keep(() => {
    const asked = steps;
    steps = null;
    const changes = [...asked].flatMap(([each, by]) => moved(markOf(each), by));
    return changes.length ? changes : null;
  }, piece);
};
const moved = (mark, { dx, dy, dz }) => {
  if (!mark) return []; // taken out meanwhile
  const { x_m, y_m, z_m } = positionOf(mark);
  const aside = dx || dy ? { x_m: rounded(x_m + dx), y_m: rounded(y_m + dy) } : {};
  const up = dz ? { z_m: Math.max(0, rounded(z_m + dz)) } : {};
  return changesFor(mark, { ...aside, ...up });
};
const unlessLocked = (act) => (mark) => {
  if (!isLocked(mark)) act(mark);
};
const push = (across, along, length) =>
  unlessLocked((mark) => nudge(mark, across * length(), along * length(), 0));
const raise = (sign) => unlessLocked((mark) => nudge(mark, 0, 0, sign * smallStep()));

const turn = (by) =>
  unlessLocked((mark) => {
    if (mark.dataset.where === "spots") return;
    const piece = mark.dataset.piece;
    keep(() => {
      const now = markOf(piece);
      const bearing_deg = (Number(now?.dataset.bearing) + by + 360) % 360;
      return now && [setOf(now, isLamp(now) ? { bearing_deg, aims_at: "" } : { bearing_deg })];
    }, piece);
  });
const ofLamp = (act) => (mark) => {
  if (isLamp(mark)) act(mark.dataset.piece);
};
const notCamera = (act) => (mark) => {
  if (mark.dataset.where !== "camera") act(mark);
};

const acts = {
  PageUp: raise(1),
  PageDown: raise(-1),
  Enter: (mark) => choose(mark.dataset.piece)?.then(openForm),
  Space: (mark) => choose(mark.dataset.piece),
  ",": turn(-5),
  ".": turn(5),
  "[": ofLamp((piece) => dim(piece, -1 / 3)),
  "]": ofLamp((piece) => dim(piece, 1 / 3)),
  x: ofLamp(switchLamp),
  c: notCamera((mark) => copy(mark.dataset.piece)),
  Delete: notCamera(({ dataset: { piece, where } }) =>
    keep(() => [{ operation: "remove", where, piece_id: piece }], ""),
  ),
};
const arrows = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
for (const [key, [across, along]] of Object.entries(arrows)) {
  acts[key] = push(across, along, smallStep);
  acts[`Shift+${key}`] = push(across, along, largeStep);
}

export const attachPieceKeys = () => {
  const onPiece = (act) => (event) => {
    const mark = event.target.closest?.("[data-piece]");
    if (!mark) return;
    event.preventDefault();
    event.stopPropagation();
    act(mark);
  };
  const bound = Object.entries(acts).flatMap(([key, act]) => strokes(key).map((stroke) => [stroke, onPiece(act)]));
  tinykeys(document, Object.fromEntries(bound), { capture: true });
};
