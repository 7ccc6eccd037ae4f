// Several photometric files with a progress bar. Attaches to #upload; reads its fields; sends some files at a
// time and adds what became of each to #upload-results. Without it the form sends all of them at once.
(() => {
  const form = document.getElementById("upload");
  const files = document.getElementById("file");
  const bar = document.getElementById("upload-progress");
  const results = document.getElementById("upload-results");
  const atATime = 10;

  const sent = async (some) => {
    const fields = new FormData(form);
    fields.delete("file");
    for (const file of some) fields.append("file", file, file.name);
    const answer = await fetch(form.action, {
      method: "POST",
      body: fields,
      headers: { "HX-Request-Type": "partial" },
    });
    if (answer.ok || answer.status === 422) return answer.text();
    const line = document.createElement("li");
    const why = answer.status === 413 ? "larger than 64 MB together" : `refused with status ${answer.status}`;
    line.append(`${some.map((file) => file.name).join(", ")}: ${why}`);
    return line.outerHTML;
  };

  form.addEventListener("submit", async (event) => {
    const every = [...files.files];
    if (every.length < 2) return;
    event.preventDefault();
    const button = form.querySelector("button");
    button.disabled = true;
    bar.hidden = false;
    bar.max = every.length;
    for (let done = 0; done < every.length; done += atATime) {
      const some = every.slice(done, done + atATime);
      const told = await sent(some).catch(() => `<li>The connection broke at ${done + 1} of ${every.length}.</li>`);
      results.insertAdjacentHTML("beforeend", told);
      bar.value = done + some.length;
    }
    button.disabled = false;
    files.value = "";
  });
})();
