// Several photometric files with a progress bar. Attaches to #upload; reads its fields; sends the files one after the other and
// adds what became of each to #upload-results. Without it the form sends all of them at once.
(() => {
  const form = document.getElementById("upload");
  const files = document.getElementById("file");
  const bar = document.getElementById("upload-progress");
  const results = document.getElementById("upload-results");

  const sent = async (file) => {
    const one = new FormData(form);
    one.delete("file");
    one.append("file", file, file.name);
    const answer = await fetch(form.action, { method: "POST", body: one, headers: { "HX-Request-Type": "partial" } });
    if (answer.ok || answer.status === 422) return answer.text();
    const line = document.createElement("li");
    line.append(`${file.name}: ${answer.status === 413 ? "larger than 4 MB" : `refused with status ${answer.status}`}`);
    return line.outerHTML;
  };

  form.addEventListener("submit", async (event) => {
    if (files.files.length < 2) return;
    event.preventDefault();
    const button = form.querySelector("button.main");
    button.disabled = true;
    bar.hidden = false;
    bar.max = files.files.length;
    for (const [done, file] of [...files.files].entries()) {
      results.insertAdjacentHTML("beforeend", await sent(file).catch(() => `<li>The connection broke at ${done + 1} of ${files.files.length}.</li>`));
      bar.value = done + 1;
    }
    button.disabled = false;
    files.value = "";
  });
})();
