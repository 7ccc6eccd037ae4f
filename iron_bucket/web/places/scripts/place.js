// A place being recorded: what was open stays open when it is saved, and a press on the plan fills in where something
// is. Reads data-at of folds and data-left, data-top of [data-plan]; changes open folds and the fields x_m and y_m.
const place = () => document.getElementById("place");
const folds = () => [...place().querySelectorAll("details[data-at]")];

let open = [];
let latest = "";
document.addEventListener("htmx:before:swap", (event) => {
  if (event.detail.ctx.target?.id !== "place") return;
  open = folds()
    .filter((each) => each.open)
    .map((each) => each.dataset.at);
});
document.addEventListener("htmx:after:swap", (event) => {
  if (event.detail.ctx.target?.id !== "place") return;
  for (const each of folds()) if (open.includes(each.dataset.at)) each.open = true;
});

// The form that was opened or typed in last is the one that is pointed for.
const note = (event) => {
  const fold = event.target.closest?.("details[data-at]");
  if (fold) latest = fold.dataset.at;
};
document.addEventListener("focusin", note);
document.addEventListener("click", (event) => {
  note(event);
  const plan = event.target.closest?.("[data-plan] svg");
  const fold = plan && folds().find((each) => each.open && each.dataset.at === latest);
  const [x, y] = ["x_m", "y_m"].map((name) => fold?.querySelector(`[name=${name}]`));
  if (!x || !y) return;
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(plan.getScreenCTM().inverse());
  const { left, top, unit } = plan.parentElement.dataset;
  const inUnits = (metres) => (unit === "ft" ? `${(metres / 0.3048).toFixed(2)} ft` : metres.toFixed(2));
  x.value = inUnits(Number(left) + at.x / 100);
  y.value = inUnits(Number(top) - at.y / 100);
  x.focus();
});
