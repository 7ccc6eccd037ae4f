// Pieces of a plan as their marks carry them (data-piece, data-where, data-x …), and the changes that move them.
import { paper } from "./board.js";

export const rounded = (value) => Math.round(value * 1000) / 1000;
export const markOf = (piece) => document.querySelector(`[data-piece="${CSS.escape(piece)}"]`);
export const stripOf = (mark) => document.querySelector(`[data-lifts="${CSS.escape(mark.dataset.piece)}"]`);
export const isLocked = (mark) => mark.classList.contains("is-locked");
export const isLamp = (mark) => mark.dataset.where === "lamps";

export const positionOf = (mark) => ({
  x_m: Number(mark.dataset.x),
  y_m: Number(mark.dataset.y),
  z_m: Number(mark.dataset.z),
});

// The drawing is in centimetres from the paper's top left corner, y down.
export const toMetres = ({ x, y }) => ({
  x: Number(paper().dataset.left) + x / 100,
  y: Number(paper().dataset.top) - y / 100,
});
export const toPaper = ({ x, y }) => ({
  x: (x - Number(paper().dataset.left)) * 100,
  y: (Number(paper().dataset.top) - y) * 100,
});

// One change of one piece; what it was goes with it, so that nobody's other change is overwritten.
export const setOf = (mark, to) => {
  const now = positionOf(mark);
  const was = Object.fromEntries(Object.keys(to).flatMap((key) => (key in now ? [[key, now[key]]] : [])));
  const where = mark.dataset.where;
  return { operation: "set", where, piece_id: where === "camera" ? "" : mark.dataset.piece, to, was };
};

// A group moves together: the others by as much.
export const changesFor = (mark, to) => {
  const changes = [setOf(mark, to)];
  const group = mark.dataset.group;
  if (!group || !("x_m" in to)) return changes;
  const from = positionOf(mark);
  for (const other of document.querySelectorAll(`[data-group="${CSS.escape(group)}"]`)) {
    if (other === mark || isLocked(other)) continue;
    const { x_m, y_m } = positionOf(other);
    changes.push(setOf(other, { x_m: rounded(x_m + to.x_m - from.x_m), y_m: rounded(y_m + to.y_m - from.y_m) }));
  }
  return changes;
};

// To a corner's or another piece's line, where one is a hand away.
const NEAR_M = 0.08;
export const snapped = (mark, { x, y }) => {
  const others = [...document.querySelectorAll("[data-piece]")].filter((other) => other !== mark).map(positionOf);
  const lines = [...JSON.parse(paper().dataset.corners), ...others.map(({ x_m, y_m }) => [x_m, y_m])];
  const nearest = (value, axis) => lines.map((line) => line[axis]).findLast((at) => Math.abs(at - value) < NEAR_M);
  return { x: rounded(nearest(x, 0) ?? x), y: rounded(nearest(y, 1) ?? y) };
};
