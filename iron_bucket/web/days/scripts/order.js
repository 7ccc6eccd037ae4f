// The order of a day: a grip drags its pass to another place, or moves it with the arrow keys. Reads data-base of #days
// and data-pass of its rows; changes only where a dragged row is drawn.
import { drag } from "d3-drag";
import { selectAll } from "d3-selection";

const days = () => document.getElementById("days");
const rows = () => [...document.querySelectorAll("#days [data-pass]")];
const put = (row, to) => {
  const { base, day } = days().dataset;
  const values = { day, setup_id: row.dataset.pass, place: to + 1 };
  return htmx.ajax("POST", `${base}/place`, { source: days(), target: "#days", swap: "outerHTML", values });
};
const draw = (row, shift) => {
  row.style.translate = shift ? `0 ${shift}px` : "";
  row.classList.toggle("bg-enamel-hi", shift !== 0);
};
// Before the first of the others whose middle lies under it.
const placeOf = (row, y) => {
  const others = rows().filter((each) => each !== row);
  const after = others.findIndex((each) => y < each.offsetTop + each.offsetHeight / 2);
  return after < 0 ? others.length : after;
};

let from = 0;
const move = drag()
  .container(() => document.body)
  .on("start", (event) => {
    from = event.y;
  })
  .on("drag", function (event) {
    draw(this.closest("[data-pass]"), event.y - from);
  })
  .on("end", function (event) {
    const row = this.closest("[data-pass]");
    const to = placeOf(row, row.offsetTop + row.offsetHeight / 2 + event.y - from);
    draw(row, 0);
    if (to !== rows().indexOf(row)) put(row, to);
  });

const attach = () => selectAll("#days [data-grip]").call(move);
document.addEventListener("htmx:after:swap", attach);
attach();

document.addEventListener("keydown", async (event) => {
  const row = event.target.closest?.("#days [data-grip]")?.closest("[data-pass]");
  const way = { ArrowUp: -1, ArrowDown: 1 }[event.key];
  if (!row || !way) return;
  event.preventDefault();
  const to = rows().indexOf(row) + way;
  if (to < 0 || to >= rows().length) return;
  await put(row, to);
  document.querySelector(`#days [data-pass="${row.dataset.pass}"] [data-grip]`)?.focus();
});
