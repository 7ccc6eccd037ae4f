// A beginning that has an hour of its own proposes it, until somebody types one. Reads data-hour of the options of
// #begin; changes nothing but the hour there.
const form = document.getElementById("begin");
let isTyped = false;
form?.elements.when.addEventListener("input", () => {
  isTyped = true;
});
form?.elements.beginning.addEventListener("change", ({ target }) => {
  const { hour } = target.selectedOptions[0].dataset;
  const { when } = form.elements;
  if (hour && !isTyped) when.value = `${when.value.slice(0, 10)}T${hour.padStart(2, "0")}:00`;
});
