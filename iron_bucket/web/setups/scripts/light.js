// The light under the plan: asked for once a board is there, coarser while something is dragged or pointed at, and on
// the plane that #light-on says. The old light stays until the new one comes. Changes #light and #wall-light.
import { board, paper } from "./board.js";

let wanted = { plane: "face", height: "", solo: "" };
let last = null; // the light that was drawn last, for a board that was just put in
const form = () => document.getElementById("light-on");
const drawn = () => document.getElementById("light");
const onWall = () => document.getElementById("wall-light");
const isWall = () => wanted.plane.startsWith("wall-");
const tell = (words) => {
  document.getElementById("light-words").textContent = words;
};

const parsed = (text) => new DOMParser().parseFromString(text, "text/html");
const asText = (text) => parsed(text).body.textContent;
const lay = (text) => {
  const found = parsed(text).querySelector("svg");
  tell(found.dataset.words);
  if (isWall()) {
    onWall().replaceChildren(document.importNode(found, true));
    return;
  }
  onWall().replaceChildren();
  last = document.importNode(found, true);
  drawn().replaceWith(last);
};

// One question at a time: while one is on its way, only the last other waits, unless it is no longer wanted then.
let isAsking = false;
let waiting = null;
const ask = async (changes, isWanted = () => true) => {
  if (isAsking) {
    waiting = { changes, isWanted };
    return;
  }
  isAsking = true;
  const address = `${board().dataset.base}/light`;
  const token = document.querySelector("[name=csrf_token]")?.value;
  try {
    const answer = changes
      ? await fetch(address, {
          method: "POST",
          headers: { "X-CSRFToken": token },
          body: new URLSearchParams({ ...wanted, changes: JSON.stringify(changes) }),
        })
      : await fetch(`${address}?${new URLSearchParams(wanted)}`);
    if (answer.ok && drawn() && isWanted()) lay(await answer.text());
    if (answer.status === 422) tell(asText(await answer.text()));
  } catch {
    // The board's own requests say that nothing answers; a light that does not come says nothing more.
  }
  isAsking = false;
  const next = waiting;
  waiting = null;
  if (next?.isWanted()) await ask(next.changes, next.isWanted);
};

// As it would be after some changes, while that is wanted.
export const showLight = (changes, isWanted) => isWall() || ask(changes, isWanted);

// Of one lamp alone, or of all again.
export const soloed = () => wanted.solo;
export const soloLight = (solo) => {
  wanted = { ...wanted, solo };
  return ask();
};

// Laid under a board that was just put in, and asked for anew, by all lamps together as the board has it.
export const relight = () => {
  if (!paper() || !form()) return;
  wanted.solo = "";
  form().elements.plane.value = wanted.plane;
  if (wanted.height) form().elements.height.value = wanted.height;
  form().dataset.plane = wanted.plane;
  if (last && !isWall()) drawn().replaceWith(last);
  ask();
};

export const attachLight = () => {
  document.addEventListener("change", (event) => {
    if (!form()?.contains(event.target)) return;
    const { plane, height } = form().elements;
    form().dataset.plane = plane.value;
    wanted = { ...wanted, plane: plane.value, height: height.value };
    ask();
  });
  document.addEventListener("submit", (event) => {
    if (event.target === form()) event.preventDefault();
  });
};
