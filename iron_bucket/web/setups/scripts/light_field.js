// The light over a plane, a shade to a stop, painted under the plan or on a wall's own picture. Reads data-field of
// the buttons and data-walls of the list.
import { board, paper } from "./board.js";

const MIDDLE_SHADE = 128;
const SHADES_TO_A_STOP = 18;
const shadeOf = (stop) =>
  Math.min(Math.max(MIDDLE_SHADE + (stop === null ? -14 : Math.floor(stop)) * SHADES_TO_A_STOP, 14), 250);

const onPlan = () => document.querySelector("[data-light-field]");
const onWall = () => document.querySelector("[data-wall-field]");

const hide = () => {
  onPlan().hidden = true;
  onWall().hidden = true;
  paper().classList.remove("shows-field");
};

const paint = async (plane) => {
  const answer = await fetch(`${board().dataset.base}/field?plane=${plane}`);
  if (!answer.ok) return;
  const { columns, rows, stops } = await answer.json();
  const isWall = plane.startsWith("wall-");
  const canvas = isWall ? onWall() : onPlan();
  canvas.width = columns;
  canvas.height = rows;
  const ink = canvas.getContext("2d");
  const image = ink.createImageData(columns, rows);
  stops.forEach((stop, at) => image.data.set([shadeOf(stop), shadeOf(stop), shadeOf(stop), 255], at * 4));
  ink.putImageData(image, 0, 0);
  canvas.hidden = false;
  if (!isWall) paper().classList.add("shows-field");
};

// Returns what paints the chosen plane again, on a board that was just put in.
export const attachField = () => {
  let plane = "";
  const show = async (chosen) => {
    plane = chosen;
    hide();
    if (plane) await paint(plane);
  };
  document.addEventListener("click", (event) => {
    const chosen = event.target.closest?.("[data-field]")?.dataset.field;
    if (chosen) show(chosen === plane ? "" : chosen);
  });
  document.addEventListener("change", (event) => {
    if (event.target.matches?.("[data-walls]")) show(event.target.value);
  });
  return async () => {
    if (plane) await paint(plane);
  };
};
