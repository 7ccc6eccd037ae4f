// Whoever was signed out meanwhile signs in where they are: what they had sent waits for it, and goes on. Reads the
// dialog #sign-in-again; changes the tokens of the page.
const dialog = () => document.getElementById("sign-in-again");
const SIGN_IN = "/sign-in";
const OUT = 401;

// A token of the session as it is now, from the form that everybody may see.
const freshToken = async () => {
  const page = await (await fetch(SIGN_IN)).text();
  return new DOMParser().parseFromString(page, "text/html").querySelector("[name=csrf_token]")?.value;
};
const renew = (token) => {
  for (const field of document.querySelectorAll("[name=csrf_token]")) field.value = token;
  document.body.setAttribute("hx-headers:inherited", JSON.stringify({ "X-CSRFToken": token }));
};

const tryIn = async (fields) => {
  const body = new URLSearchParams({ ...fields, csrf_token: await freshToken() });
  const answer = await fetch(SIGN_IN, { method: "POST", headers: { "HX-Request-Type": "partial" }, body });
  if (!answer.ok) return (await answer.text()) || "That did not work. Try again.";
  renew(await freshToken());
  return "";
};

let signedInAt = 0;
let waiting = null; // everybody who was refused waits for the same sign-in
const signInAgain = () => {
  waiting ??= new Promise((resolve) => {
    const form = dialog().querySelector("form");
    const said = form.querySelector("[role=alert]");
    const close = (isIn) => {
      form.onsubmit = null;
      dialog().onclose = null;
      dialog().close();
      form.reset();
      waiting = null;
      resolve(isIn);
    };
    form.onsubmit = async (event) => {
      event.preventDefault();
      said.textContent = await tryIn(Object.fromEntries(new FormData(form)));
      if (said.textContent) return;
      signedInAt = performance.now();
      close(true);
    };
    dialog().onclose = () => close(false);
    said.textContent = "";
    dialog().showModal();
  });
  return waiting;
};

export const attachSignInAgain = () => {
  document.addEventListener("htmx:before:request", ({ detail: { ctx } }) => {
    const send = ctx.fetch;
    ctx.fetch = async (address, options) => {
      const sentAt = performance.now();
      const answer = await send(address, options);
      // Refused late, while somebody signed in already: no second question.
      const isIn = sentAt < signedInAt;
      if (answer.status !== OUT || !dialog() || !(isIn || (await signInAgain()))) return answer;
      const token = document.querySelector("[name=csrf_token]")?.value;
      options.body?.set?.("csrf_token", token);
      options.headers["X-CSRFToken"] = token;
      return send(address, options);
    };
  });
  document.addEventListener("htmx:before:response", (event) => {
    if (event.detail.ctx.response.status === OUT) event.preventDefault(); // nobody signed in: all stays as it is
  });
};
