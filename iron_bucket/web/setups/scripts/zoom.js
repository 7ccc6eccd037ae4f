// The plan nearer: pinch, Ctrl and the wheel, a mouse's drag on the sheet, and the buttons with data-zoom. One finger
// scrolls the page.
import { select } from "d3-selection";
import { zoom, zoomIdentity } from "d3-zoom";
import { board, plan } from "./board.js";

const sheet = () => select("[data-sheet]");
// What is shown, in shares of the sheet, so that it outlives a board and another width.
let shown = { scale: 1, left: 0, top: 0 };

const lay = () => {
  const [x, y, width, height] = plan().dataset.whole.split(" ").map(Number);
  const { scale, left, top } = shown;
  plan().setAttribute("viewBox", [x + left * width, y + top * height, width / scale, height / scale].join(" "));
};

const zooming = zoom()
  .scaleExtent([0.5, 16])
  .filter((event) => {
    if (event.type === "wheel") return event.ctrlKey;
    if (event.touches) return event.touches.length > 1;
    return !event.button;
  })
  .on("zoom", ({ transform: { k, x, y } }) => {
    const { clientWidth, clientHeight } = sheet().node();
    shown = { scale: k, left: -x / k / clientWidth, top: -y / k / clientHeight };
    lay();
  });

export const followZoom = () => {
  if (sheet().empty()) return;
  const { clientWidth, clientHeight } = sheet().node();
  const { scale, left, top } = shown;
  const kept = zoomIdentity.scale(scale).translate(-left * clientWidth, -top * clientHeight);
  sheet().call(zooming).on("dblclick.zoom", null).property("__zoom", kept);
  lay();
};

export const attachZoom = () =>
  document.addEventListener("click", (event) => {
    const to = board() && event.target.closest?.("[data-zoom]")?.dataset.zoom;
    if (to === "in") sheet().call(zooming.scaleBy, 1.3);
    if (to === "out") sheet().call(zooming.scaleBy, 1 / 1.3);
    if (to === "whole") sheet().call(zooming.transform, zoomIdentity);
  });
