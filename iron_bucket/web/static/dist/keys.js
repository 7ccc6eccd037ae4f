// Keys of every page. Attaches to the document; reads data-key, data-opens, data-does; changes only focus,
// dialogs and where the page is.
(() => {
  const typing = (node) => node.closest("input:not([type=checkbox]), select, textarea, [contenteditable]");
  const dialog = document.getElementById("keys");
  const named = { "?": "these keys", Escape: "close, or leave a field", "/": "to the first field" };

  const rows = () => {
    const found = Object.entries(named);
    for (const node of document.querySelectorAll("[data-key]")) {
      const words = (node.getAttribute("aria-label") || node.textContent).replace(/\s+/g, " ").trim();
      if (node.dataset.key !== "/")
        found.push([node.dataset.key, words.replace(new RegExp(` ${node.dataset.key}$`), "")]);
    }
    for (const node of document.querySelectorAll("[data-keys]"))
      found.push(...JSON.parse(node.dataset.keys.replace(/\s+/g, " ")));
    return found;
  };

  const open = () => {
    const title = Object.assign(document.createElement("h2"), { id: "keys-title", textContent: "Keys" });
    const list = document.createElement("dl");
    for (const [key, words] of rows()) {
      const term = document.createElement("dt");
      term.append(Object.assign(document.createElement("kbd"), { textContent: key }));
      list.append(term, Object.assign(document.createElement("dd"), { textContent: words }));
    }
    const close = Object.assign(document.createElement("button"), { textContent: "Close", className: "button" });
    close.addEventListener("click", () => dialog.close());
    dialog.replaceChildren(title, list, close);
    dialog.showModal();
  };

  document.addEventListener("click", (event) => {
    const node = event.target.closest("[data-opens], [data-does]");
    if (node?.dataset.opens === "keys") open();
    if (node?.dataset.does === "print") window.print();
  });

  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape" && typing(event.target)) return event.target.blur();
    if (typing(event.target) || dialog.open) return;
    if (event.key === "?") return open();
    if (event.key === "/") {
      const field = document.querySelector("main input:not([type=hidden]), main select");
      if (field) {
        event.preventDefault();
        field.focus();
        field.select?.();
      }
      return;
    }
    const node = [...document.querySelectorAll("[data-key]")].find((each) => each.dataset.key === event.key);
    if (node) {
      event.preventDefault();
      // A fast key can come before htmx has seen what it just put in; the form would leave the page.
      htmx.process(document.body);
      node.click();
    }
  });
})();
