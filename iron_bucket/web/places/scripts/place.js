// A place being recorded: what was open stays open when a form of it is saved, what is half typed in the other forms
// stays typed, and a press on the plan fills in where something is. Reads data-at of folds and data-left, data-top of
// [data-plan]; changes open folds, half typed fields and the fields x_m and y_m.
const place = () => document.getElementById("place");
const folds = () => [...place().querySelectorAll("details[data-at]")];

const foldOf = (element) => element?.closest?.("details[data-at]")?.dataset.at;
const asLoaded = (field) => field.defaultValue ?? [...field.options].find((each) => each.defaultSelected)?.value;
const TYPED_IN = "details[data-at] :is(input:not([type=file]), select, textarea)[name]";
const fields = () => [...place().querySelectorAll(TYPED_IN)];

let open = [];
let typed = [];
let latest = "";
document.addEventListener("htmx:before:swap", (event) => {
  if (event.detail.ctx.target?.id !== "place") return;
  open = folds()
    .filter((each) => each.open)
    .map((each) => each.dataset.at);
  const sent = event.detail.ctx.sourceElement?.closest("form");
  typed = fields()
    .filter((field) => field.form !== sent && (field.value !== asLoaded(field) || field === document.activeElement))
    .map((field) => ({ field, at: foldOf(field), here: field === document.activeElement }));
});
document.addEventListener("htmx:after:swap", (event) => {
  if (event.detail.ctx.target?.id !== "place") return;
  for (const each of folds()) if (open.includes(each.dataset.at)) each.open = true;
  // Folds are numbered, so a field that was loaded with another value belongs to something else by now.
  for (const { field: before, at, here } of typed) {
    const same = (field) => field.name === before.name && foldOf(field) === at && asLoaded(field) === asLoaded(before);
    const after = fields().find(same);
    if (!after) continue;
    after.value = before.value;
    if (here) after.focus();
  }
});

// The form that was opened or typed in last is the one that is pointed for.
const note = (event) => {
  latest = foldOf(event.target) ?? latest;
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
