// Keys of the pick list. Attaches to #answer; reads which row is open or focused; opens rows, ticks, presses
// the row's own buttons.
(() => {
  const rows = () => [...document.querySelectorAll("details.fit")];
  const typing = (node) => node.closest("input:not([type=checkbox]), select, textarea");
  const current = () => document.activeElement.closest?.("details.fit") || rows().find((row) => row.open);

  document.addEventListener("keydown", (event) => {
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      typing(event.target) ||
      document.querySelector("dialog[open]")
    )
      return;
    const list = rows();
    if (!list.length) return;
    const row = current();
    const place = list.indexOf(row);
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      const focused = document.activeElement.closest?.("details.fit");
      const next =
        list[focused ? Math.min(Math.max(place + (event.key === "ArrowDown" ? 1 : -1), 0), list.length - 1) : 0];
      next.querySelector("summary").focus();
    } else if (row && event.key === "b") {
      event.preventDefault();
      row.open = true;
      row.querySelector(".put [name=purpose]")?.focus();
    } else if (row && event.key === "c") {
      const tick = row.querySelector("[name=with]");
      if (tick) tick.checked = !tick.checked;
    } else if (row && event.key === "f") {
      row.open = true;
      const figures = row.querySelector(".figures");
      if (figures) figures.open = !figures.open;
    }
  });
})();
