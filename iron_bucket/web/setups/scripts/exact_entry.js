// Exact entry: each field saves itself once it is left, or at Enter, one after another; what was typed meanwhile stays
// in its field, with the focus, whatever board an answer brings. Reads data-saves-itself; a refused field is shown.
import { inTurn, post } from "./board.js";

const form = () => document.querySelector("[data-saves-itself]");
const pieceOf = (some) => some?.elements.piece.value;
const isTick = (field) => field.type === "checkbox";
const chosenOf = (field) => [...field.selectedOptions].map((option) => option.value);
const valueOf = (field) => (isTick(field) ? field.checked : field.multiple ? chosenOf(field) : field.value);
const put = (field, value) => {
  if (isTick(field)) field.checked = value;
  else if (field.multiple) for (const option of field.options) option.selected = value.includes(option.value);
  else field.value = value;
};

// Typed and not yet answered, of one piece: by the field's name.
let piece = "";
const typed = new Map();
const remember = (field) => {
  if (pieceOf(field.form) !== piece) {
    typed.clear();
    refused = null;
  }
  piece = pieceOf(field.form);
  typed.set(field.name, valueOf(field));
};

// A field that a new board was laid under tells of no change when it is left, so that is looked at as well.
const queued = new Map();
const flush = (name) => {
  const value = typed.get(name);
  const key = `${piece} ${name}`;
  if (!typed.has(name) || queued.get(key) === String(value)) return;
  queued.set(key, String(value));
  const { elements, dataset } = form();
  save({ key, piece, name, value, where: dataset.savesItself, was: elements[`was-${name}`].value });
};

// One field alone is sent, with what stood there: nobody's other change is in the way, not even one's own; and whatever
// is chosen meanwhile.
const save = ({ key, piece: of, name, value, where, was }) =>
  inTurn(() => {
    if (queued.get(key) !== String(value)) return null; // typed anew since: the newer one follows
    queued.delete(key);
    const now = form();
    const isHere = pieceOf(now) === of;
    if (isHere && String(typed.get(name)) === String(value)) typed.delete(name);
    if (isHere && refused?.name === name) refused = null;
    const said = value === false ? {} : { [name]: value === true ? "yes" : value };
    const stood = { [`was-${name}`]: isHere ? now.elements[`was-${name}`].value : was };
    return post(`/form/${where}`, { piece: of, holds: name, ...said, ...stood });
  });

// Refused, until it is typed anew: its field's name, what was typed, and the sentence about it.
let refused = null;
const keepRefused = () => {
  const marked = form()?.querySelector("[aria-invalid]");
  if (marked) {
    piece = pieceOf(form());
    refused = { name: marked.name, value: valueOf(marked), why: form().querySelector(`#${marked.id}-why`) };
  }
  const field = form()?.elements[refused?.name];
  if (!field || marked || pieceOf(form()) !== piece) return;
  put(field, refused.value);
  field.setAttribute("aria-invalid", "true");
  field.setAttribute("aria-describedby", refused.why.id);
  field.parentElement.append(refused.why);
};

let focused = null;
const takeFocus = () => {
  const field = document.activeElement;
  focused = form()?.contains(field) ? { id: field.id, start: field.selectionStart, end: field.selectionEnd } : null;
};
const giveFocus = () => {
  form()?.querySelector("[aria-invalid]")?.scrollIntoView({ block: "nearest" });
  if (!focused) return;
  const field = document.getElementById(focused.id);
  field?.focus({ preventScroll: true });
  if (field?.type === "text") field.setSelectionRange(focused.start, focused.end);
};

export const attachExactEntry = () => {
  const own = (event) => event.target.form?.matches("[data-saves-itself]") && event.target.name;
  document.addEventListener("input", (event) => {
    if (own(event)) remember(event.target);
  });
  document.addEventListener("change", (event) => {
    if (!own(event)) return;
    remember(event.target);
    flush(event.target.name);
  });
  document.addEventListener("focusout", (event) => {
    if (own(event)) flush(event.target.name);
  });
  const isSaved = (event) => event.target.matches?.("[data-saves-itself]"); // by its fields alone
  document.addEventListener(
    "submit",
    (event) => {
      if (!isSaved(event)) return;
      event.preventDefault();
      event.stopPropagation();
      for (const name of typed.keys()) flush(name);
    },
    { capture: true },
  );
  document.addEventListener("htmx:before:swap", takeFocus);
  document.addEventListener("htmx:after:swap", () => {
    if (form() && pieceOf(form()) === piece) {
      for (const [name, value] of typed) if (form().elements[name]) put(form().elements[name], value);
    }
    keepRefused();
    giveFocus();
  });
};
