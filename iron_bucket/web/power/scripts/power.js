// The load board: a press chooses a load, a drag hangs it on another source. Reads data-base and data-pass of #power,
// data-load and data-feed of segments, data-source of rows; changes only where a dragged segment is drawn.
import { drag } from "d3-drag";
import { selectAll } from "d3-selection";

const FAR_PX = 4;
const power = () => document.getElementById("power");
const into = () => ({ source: power(), target: "#power", swap: "outerHTML" });

const choose = (load) => {
  const { base, pass } = power().dataset;
  const address = `${base}?${new URLSearchParams({ pass, load })}`;
  history.replaceState(null, "", address);
  return htmx.ajax("GET", address, into());
};
const hang = ({ load, feed }, where) => {
  const values = { pass: power().dataset.pass, load, where, was: feed };
  return htmx.ajax("POST", `${power().dataset.base}/hang`, { ...into(), values });
};

const rowAt = ({ clientX, clientY }) => document.elementFromPoint(clientX, clientY)?.closest("[data-source]");
const mark = (row) => {
  for (const each of document.querySelectorAll("[data-source]")) each.classList.toggle("bg-enamel-hi", each === row);
};

let dragged = null;
const move = drag()
  .container((event) => event.target.closest("svg"))
  .subject((event) => ({ x: event.x, y: event.y }))
  .clickDistance(FAR_PX)
  .on("start", (event) => {
    const node = event.sourceEvent.target.closest("[data-load]");
    dragged = { node, from: { x: event.x, y: event.y }, row: node.closest("[data-source]"), isFar: false };
  })
  .on("drag", (event) => {
    const [dx, dy] = [event.x - dragged.from.x, event.y - dragged.from.y];
    dragged.isFar ||= Math.hypot(dx, dy) > FAR_PX;
    dragged.node.setAttribute("transform", `translate(${dx} ${dy})`);
    dragged.node.setAttribute("pointer-events", "none"); // what lies under it is asked for
    mark(rowAt(event.sourceEvent.changedTouches?.[0] ?? event.sourceEvent));
  })
  .on("end", (event) => {
    const { node, row, isFar } = dragged;
    const over = rowAt(event.sourceEvent.changedTouches?.[0] ?? event.sourceEvent);
    dragged = null;
    mark(null);
    node.removeAttribute("transform");
    node.removeAttribute("pointer-events");
    if (isFar && over && over !== row) hang(node.dataset, over.dataset.source);
  });

const attach = () => selectAll("#power svg [data-load]").call(move);
document.addEventListener("htmx:after:swap", attach);
attach();

document.addEventListener("click", (event) => {
  const load = event.target.closest?.("#power [data-load]");
  if (load) choose(load.dataset.load);
});
document.addEventListener("keydown", (event) => {
  const load = event.target.closest?.("#power svg [data-load]");
  if (!load || (event.key !== "Enter" && event.key !== " ")) return;
  event.preventDefault();
  choose(load.dataset.load);
});
