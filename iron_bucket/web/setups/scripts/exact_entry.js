// Exact entry saves itself field by field: Enter has done so before it submits, and would do it twice.
export const attachExactEntry = () =>
  document.addEventListener("submit", (event) => {
    if (event.target.matches?.("[data-inspector] form[hx-trigger]")) event.preventDefault();
  });
