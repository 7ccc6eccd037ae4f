// Dragging: a piece over the plan, its aim round it, its height on the strip. Levels follow while it is dragged; what
// it became is kept when it is let go. A press that does not move chooses the piece.
import { drag } from "d3-drag";
import { select, selectAll } from "d3-selection";
import { choose, keep, tryOut } from "./board.js";
import { showLight } from "./light.js";
import {
  changesFor,
  isLamp,
  isLocked,
  markOf,
  positionOf,
  rounded,
  setOf,
  snapped,
  stripOf,
  toMetres,
  toPaper,
} from "./pieces.js";

const FAR_PX = 4;
let dragged = null;
export const isDragging = () => dragged !== null;

// What every drag shares; `follow` draws the dragged piece at the pointer and returns what it would be set to.
const dragging = (markFrom, subject, follow) =>
  drag()
    .container((event) => event.target.closest("svg"))
    .filter((event) => !event.button && !event.ctrlKey && !isLocked(markFrom(event.target)))
    .subject((event) => subject(markFrom(event.sourceEvent.target), event))
    .clickDistance(FAR_PX)
    .on("start", (event) => {
      const mark = markFrom(event.sourceEvent.target);
      dragged = { mark, from: { x: event.x, y: event.y }, scale: mark.ownerSVGElement.getScreenCTM().a, to: null };
    })
    .on("drag", (event) => {
      const moved = Math.hypot(event.x - dragged.from.x, event.y - dragged.from.y) * dragged.scale;
      if (!dragged.to && moved < FAR_PX) return;
      dragged.to = follow(dragged.mark, event);
      const changes = [setOf(dragged.mark, dragged.to)];
      tryOut(changes, isDragging);
      showLight(changes, isDragging);
    })
    .on("end", () => {
      const { mark, to } = dragged;
      dragged = null;
      if (to) keep(() => changesFor(mark, to), mark.dataset.piece);
    });

const translate = (node, x, y) => node?.setAttribute("transform", `translate(${x} ${y})`);
const shiftOf = (node) => node.transform.baseVal[0].matrix;

const move = dragging(
  (target) => target.closest("[data-piece]"),
  (mark) => ({ x: shiftOf(mark).e, y: shiftOf(mark).f }),
  (mark, event) => {
    const at = snapped(mark, toMetres(event));
    const { x, y } = toPaper(at);
    translate(mark, x, y);
    const strip = stripOf(mark);
    if (strip) translate(strip, x, shiftOf(strip).f);
    return { x_m: at.x, y_m: at.y };
  },
);

const aim = dragging(
  (target) => target.closest("[data-piece]"),
  (mark, { x, y }) => ({ x, y }),
  (mark, event) => {
    const at = toMetres(event);
    const { x_m, y_m } = positionOf(mark);
    const bearing = ((Math.atan2(at.x - x_m, at.y - y_m) * 180) / Math.PI + 360) % 360;
    mark.querySelector("g").setAttribute("transform", `rotate(${bearing})`);
    const to = { bearing_deg: Math.round(bearing * 10) / 10 };
    return isLamp(mark) ? { ...to, aims_at: "" } : to;
  },
);

const lift = dragging(
  (target) => markOf(target.closest("[data-lifts]").dataset.lifts),
  (mark) => ({ x: shiftOf(stripOf(mark)).e, y: shiftOf(stripOf(mark)).f }),
  (mark, event) => {
    const strip = stripOf(mark);
    const [floor, up] = ["floor", "up"].map((name) => Number(strip.ownerSVGElement.dataset[name]));
    const z_m = Math.max(0, rounded((floor - event.y) / up));
    translate(strip, shiftOf(strip).e, floor - z_m * up);
    return { z_m };
  },
);

export const attachDrags = () => {
  selectAll("#board [data-piece]").call(move);
  select("#board [data-aims]").call(aim);
  selectAll("#board [data-lifts]").call(lift);
};

const chooseWhatIs = (event, nodes) => {
  const node = event.target.closest?.(nodes);
  const piece = node?.dataset.piece ?? node?.dataset.lifts ?? node?.dataset.chooses;
  if (node?.dataset.chooses && event.type === "click") event.preventDefault();
  if (piece) choose(piece);
};
document.addEventListener("click", (event) => chooseWhatIs(event, "#board :is([data-piece], [data-lifts], [data-chooses])"));
// A mouse chooses a row as it is pressed: a board that comes in before it is let go would swallow the click.
document.addEventListener("pointerdown", (event) => {
  if (event.pointerType === "mouse" && event.button === 0) chooseWhatIs(event, "#board [data-chooses]");
});
