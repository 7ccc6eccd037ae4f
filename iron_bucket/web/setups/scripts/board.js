// The board's talk with the server, through htmx. Reads data-base and data-chosen of #board; answers are boards.
export const board = () => document.getElementById("board");
export const plan = () => document.getElementById("throw-plan");
export const paper = () => document.querySelector("[data-paper]");

// Of a swap: a poll that brought nothing is told as one too, and leaves the board it was for where it is.
export const isNewBoard = ({ detail: { ctx } }) => ctx.target?.id === "board" && !ctx.target.isConnected;

// From the height strip, which has no fields: those of a source are sent along. What is only tried comes from the plan.
const strip = () => document.getElementById("height-strip");
const intoBoard = () => ({ source: strip(), target: "#board", swap: "outerHTML" });
// What was chosen last, while turns before it are still waiting. An answer to an earlier one would open another form
// over what is being typed: it is passed over, and the board asked for anew.
let turn = Promise.resolve();
let turns = 0;
let wished = null;
let answersFor = null;
let isPassedOver = false;
const chosen = () => wished ?? board().dataset.chosen;

// One answer after another, of the board as it is when a turn comes; one that fails does not stop the next.
export const inTurn = (act) => {
  turns += 1;
  turn = turn
    .then(act)
    .then(() => isPassedOver && open(chosen()))
    .catch((error) => console.error(error))
    .finally(() => {
      turns -= 1;
      if (!turns) wished = null;
    });
  return turn;
};
export const post = (path, values) => htmx.ajax("POST", board().dataset.base + path, { ...intoBoard(), values });

// Keeps the changes that `make` returns, none where it returns nothing, with `piece` chosen after it.
export const keep = (make, piece = chosen()) => {
  wished = piece;
  return inTurn(async () => {
    const changes = make();
    if (!changes) return;
    answersFor = wished;
    await post("/changes", { changes: JSON.stringify(changes), piece: wished }).finally(() => {
      answersFor = null;
    });
  });
};
document.addEventListener("htmx:before:swap", (event) => {
  const { target, response } = event.detail.ctx;
  if (target?.id !== "board" || answersFor === null || answersFor === wished || !response.raw.ok) return;
  event.preventDefault();
  isPassedOver = true;
});

export const copy = (piece) => inTurn(() => post(`/copy/${piece}`, {}));

// The board with a piece chosen, and its form, at once and out of turn.
export const open = (piece) => {
  const address = `${board().dataset.base}?piece=${encodeURIComponent(piece)}`;
  history.replaceState(null, "", address);
  isPassedOver = false;
  return htmx.ajax("GET", address, intoBoard());
};
// What is chosen already once its turn comes stays as it is: its form may be being filled in.
export const choose = (piece) => {
  wished = piece;
  return inTurn(() => wished !== board().dataset.chosen && open(wished));
};

// What changes would do, kept nowhere: levels alone are answered. While one is asked, only the last other waits.
let isAsking = false;
let waiting = null;
let isWanted = () => true;
// `more`: what else is asked, such as where moved pieces would stand.
export const tryOut = async (changes, wanted, more = {}) => {
  if (isAsking) {
    waiting = [changes, wanted, more];
    return;
  }
  isAsking = true;
  isWanted = wanted;
  const started = performance.now();
  const values = { changes: JSON.stringify(changes), ...more };
  await htmx.ajax("POST", `${board().dataset.base}/try`, { source: plan(), target: "#who", swap: "none", values });
  board().dataset.tried = Math.round(performance.now() - started);
  isAsking = false;
  const next = waiting;
  waiting = null;
  if (next?.[1]()) await tryOut(...next);
};
document.addEventListener("htmx:before:swap", (event) => {
  if (event.target === plan() && !isWanted()) event.preventDefault();
});
