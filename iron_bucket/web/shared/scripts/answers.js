// What was sent and not answered says so at the top of the page (#unanswered, with the words of #no-answer), until
// something is answered again. A poll that fails is silent: it asks again by itself.
const place = () => document.getElementById("unanswered");
const isPoll = ({ sourceElement }) => sourceElement.matches?.("[hx-trigger^=every]");

export const attachAnswers = () => {
  document.addEventListener("htmx:error", ({ detail: { ctx } }) => {
    if (ctx?.sourceElement && !isPoll(ctx)) {
      place().replaceChildren(document.getElementById("no-answer").content.cloneNode(true));
    }
  });
  document.addEventListener("htmx:before:response", ({ detail: { ctx } }) => {
    if (ctx.response.status < 500 && !isPoll(ctx)) place().replaceChildren();
  });
};
