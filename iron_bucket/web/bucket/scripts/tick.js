// Ticking, by thumb and through a lost connection. Reads data-tick (where ticks go), data-stage and the forms with
// data-ticks; each press gets an id here, waits in the phone's storage until it was answered, and is sent again until then.
const list = () => document.getElementById("ticks");
const key = () => `ticks ${list().dataset.tick}`;
const waiting = () => JSON.parse(localStorage.getItem(key()) ?? "[]");
const keep = (ticks) => localStorage.setItem(key(), JSON.stringify(ticks));

// Not crypto.randomUUID: a phone on a set reaches this page without a certificate.
const uuid = () => {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
};

const tickOf = (form, button) => {
  const said = new FormData(form, button);
  return {
    tick_id: uuid(),
    thing: said.get("unit") || said.get("thing"),
    stage: said.get("stage"),
    count: Number(form.dataset.ticks),
    trouble: said.get("trouble") ?? "",
    note: said.get("note") ?? "",
    made_at: new Date().toISOString().slice(0, 19),
  };
};

// What waits counts in the row at once, whatever the server knows.
const show = () => {
  const ticks = waiting();
  const words = document.querySelector("[data-waiting]");
  if (words) words.textContent = ticks.length ? `${ticks.length} not sent yet` : "";
  for (const row of document.querySelectorAll("[data-thing]")) {
    const mark = row.querySelector("[data-count]");
    const [at, of] = (mark.dataset.count ||= mark.textContent.trim()).split("/").map(Number);
    const own = ticks.filter(({ thing, stage }) => thing.split("#")[0] === row.dataset.thing && stage === list().dataset.stage);
    const more = own.reduce((sum, { count, trouble }) => sum + (trouble && trouble !== "damaged" ? 0 : count), 0);
    mark.textContent = `${Math.min(Math.max(at + more, 0), of)}/${of}`;
  }
};

let underway = null;
const asked = () => Object.fromEntries(new URLSearchParams(location.search));
const send = async () => {
  const ticks = waiting();
  if (!ticks.length || underway || !list()) return;
  underway = new Set(ticks.map(({ tick_id }) => tick_id));
  const values = { ...asked(), stage: list().dataset.stage, ticks: JSON.stringify(ticks) };
  await htmx.ajax("POST", list().dataset.tick, { source: list(), target: "#ticks", swap: "outerHTML", values });
  underway = null;
  show();
  if (navigator.onLine && waiting().length && wasAnswered) send();
};
let wasAnswered = false;

let focused = null;
const isOurs = (ctx) => ctx.sourceElement?.id === "ticks";

export const attachTicks = () => {
  if (!list()) return;
  document.addEventListener("submit", (event) => {
    const form = event.target.closest("[data-ticks]");
    if (!form) return;
    event.preventDefault();
    keep([...waiting(), tickOf(form, event.submitter)]);
    show();
    send();
  });
  document.addEventListener("change", (event) => event.target.form?.matches("[data-sends-itself]") && event.target.form.requestSubmit());
  // Answered: taken, or such as no server will ever take.
  document.addEventListener("htmx:before:response", ({ detail: { ctx } }) => {
    if (!isOurs(ctx)) return;
    wasAnswered = ctx.response.status < 400 || ctx.response.status === 422;
    if (wasAnswered) keep(waiting().filter(({ tick_id }) => !underway?.has(tick_id)));
  });
  document.addEventListener("htmx:before:swap", () => {
    const row = document.activeElement?.closest("[data-thing]");
    focused = row ? row.dataset.thing : null;
  });
  document.addEventListener("htmx:after:swap", () => {
    if (!list()) return;
    show();
    if (focused) document.querySelector(`[data-thing="${CSS.escape(focused)}"] button`)?.focus({ preventScroll: true });
  });
  globalThis.addEventListener("online", send);
  setInterval(send, 4000);
  show();
  send();
};
attachTicks();
