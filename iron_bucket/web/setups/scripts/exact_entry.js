// Exact entry: each field saves itself once it is left, or at Enter, one after another; what was typed meanwhile stays
// in its field, with the focus, whatever board an answer brings. Reads data-saves-itself; a refused field is shown.
import { inTurn, open, post } from "./board.js";

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

// Typed and not yet answered, of one piece: by the field's name, what, and of what kind of piece.
let piece = "";
const typed = new Map();
const remember = (field) => {
  if (pieceOf(field.form) !== piece) {
    typed.clear();
    refused = null;
  }
  piece = pieceOf(field.form);
  typed.set(field.name, { value: valueOf(field), where: field.form.dataset.savesItself });
};

// A field that a new board was laid under tells of no change when it is left, so that is looked at as well. One that is
// taken away by a new board is not left: it is being typed in, and "1." may become "1.73".
let isBeingLaid = false;
const queued = new Map();
const flush = (name) => {
  const key = `${piece} ${name}`;
  if (!typed.has(name) || queued.get(key) === String(typed.get(name).value)) return;
  queued.set(key, String(typed.get(name).value));
  save({ key, piece, name, ...typed.get(name) });
};

// One field alone is sent, with what stands there now: nobody's other change is in the way, not even one's own. Where
// another piece was chosen meanwhile, the field's own form is opened again for it.
const save = ({ key, piece: of, name, value, where }) =>
  inTurn(async () => {
    const isNewest = () => queued.get(key) === String(value); // else it was typed anew, and the newer one follows
    if (isNewest() && pieceOf(form()) !== of) await open(of);
    if (!isNewest()) return null;
    queued.delete(key);
    const was = form()?.elements[`was-${name}`];
    if (!was || pieceOf(form()) !== of) return null; // taken out meanwhile
    if (piece === of && String(typed.get(name)?.value) === String(value)) typed.delete(name);
    if (piece === of && refused?.name === name) refused = null;
    const said = value === false ? {} : { [name]: value === true ? "yes" : value };
    return post(`/form/${where}`, { piece: of, holds: name, ...said, [was.name]: was.value });
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
    if (!own(event) || isBeingLaid) return;
    remember(event.target);
    flush(event.target.name);
  });
  document.addEventListener("focusout", (event) => {
    const isOtherWindow = document.activeElement === event.target; // then it is not left, only looked away from
    if (own(event) && !isOtherWindow && !isBeingLaid) flush(event.target.name);
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
  document.addEventListener("htmx:before:swap", () => {
    takeFocus();
    isBeingLaid = true;
  });
  for (const over of ["htmx:after:swap", "htmx:finally:swap"]) {
    document.addEventListener(over, () => {
      isBeingLaid = false;
    });
  }
  document.addEventListener("htmx:after:swap", () => {
    if (form() && pieceOf(form()) !== piece) {
      for (const name of typed.keys()) flush(name); // another piece was chosen over what was being typed
      typed.clear();
    } else if (form()) {
      for (const [name, { value }] of typed) if (form().elements[name]) put(form().elements[name], value);
    }
    keepRefused();
    giveFocus();
  });
};
