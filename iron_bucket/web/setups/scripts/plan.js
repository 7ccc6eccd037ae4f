// The hand on the plan. Attaches to #board; reads data-piece, data-lifts, data-aims, data-level, data-switch,
// data-solo; moves pieces while they are dragged, asks the server what that does, and posts where they were
// put. Keeps nothing that the server lacks but the zoom and what is being dragged.
(() => {
  const board = () => document.getElementById("board");
  const plan = () => document.getElementById("throw-plan");
  const token = () => document.querySelector("input[name=csrf_token]").value;
  const round = (value) => Math.round(value * 1000) / 1000;
  let whole = "",
    zoom = null,
    drag = null,
    asking = false,
    waiting = null,
    field = "";

  // ---- talking to the server
  const ask = async (path, data) => {
    const body = new URLSearchParams({ csrf_token: token(), ...data });
    return fetch(board().dataset.base + path, { method: "POST", body, headers: { "HX-Request-Type": "partial" } });
  };
  const show = (html, focus) => {
    board().outerHTML = html;
    htmx.process(document.body);
    whole = plan()?.getAttribute("viewBox");
    settle();
    if (field) paint(field);
    const node = focus && document.querySelector(`[data-piece="${CSS.escape(focus)}"]`);
    if (node) node.focus({ preventScroll: true });
  };
  const keep = async (changes, piece = board().dataset.chosen) => {
    try {
      const answer = await ask("/changes", { changes: JSON.stringify(changes), piece });
      show(await answer.text(), piece);
    } catch {
      unkept();
    }
  };
  // Nothing answered: what was just done is on this page alone, and says so.
  const unkept = () => {
    if (board().querySelector(".bad")) return;
    const told = document.createElement("p");
    told.className = "bad wide";
    told.setAttribute("role", "alert");
    told.textContent =
      "Iron Bucket does not answer. What you just changed is not kept; load the page again when it does.";
    board().prepend(told);
  };
  const attempt = async (changes) => {
    if (asking) {
      waiting = changes;
      return;
    }
    asking = true;
    const started = performance.now();
    try {
      const answer = await ask("/try", { changes: JSON.stringify(changes) });
      if (answer.ok && drag !== null) {
        const tried = new DOMParser().parseFromString(await answer.text(), "text/html");
        for (const part of ["contrast", "who"])
          document.getElementById(part).replaceWith(tried.getElementById(part));
      }
    } catch {
      /* letting go says so */
    }
    board().dataset.tried = Math.round(performance.now() - started);
    asking = false;
    if (waiting && drag !== null) {
      const next = waiting;
      waiting = null;
      attempt(next);
    }
  };

  // ---- places on the plan
  const metres = (event, svg = plan()) => {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const frame = document.querySelector(".plan-frame").dataset;
    return { x: Number(frame.left) + at.x / 100, y: Number(frame.top) - at.y / 100, up: at.y / 100 };
  };
  const where = (node) => ({
    x_m: Number(node.dataset.x),
    y_m: Number(node.dataset.y),
    z_m: Number(node.dataset.z),
  });
  const listed = (node) => node.dataset.where;
  const set = (node, to) => {
    const now = { ...where(node), bearing_deg: Number(node.dataset.bearing) };
    const was = Object.fromEntries(
      Object.keys(to)
        .filter((key) => key in now && key !== "bearing_deg")
        .map((key) => [key, now[key]]),
    );
    const piece = listed(node) === "camera" ? "" : node.dataset.piece;
    return { operation: "set", where: listed(node), piece_id: piece, to, was };
  };
  const snapped = (node, x, y) => {
    // To another piece's line or to a wall, where one is a hand away.
    const near = 0.08;
    for (const [wx, wy] of JSON.parse(document.querySelector(".plan-frame").dataset.corners)) {
      if (Math.abs(wx - x) < near) x = wx;
      if (Math.abs(wy - y) < near) y = wy;
    }
    for (const other of document.querySelectorAll("[data-piece]")) {
      if (other === node) continue;
      if (Math.abs(Number(other.dataset.x) - x) < near) x = Number(other.dataset.x);
      if (Math.abs(Number(other.dataset.y) - y) < near) y = Number(other.dataset.y);
    }
    return { x: round(x), y: round(y) };
  };
  const place = (node, x, y) => {
    const frame = document.querySelector(".plan-frame").dataset;
    node.setAttribute("transform", `translate(${(x - Number(frame.left)) * 100} ${(Number(frame.top) - y) * 100})`);
    const strip = document.querySelector(`[data-lifts="${CSS.escape(node.dataset.piece)}"]`);
    if (strip)
      strip.setAttribute(
        "transform",
        `translate(${(x - Number(frame.left)) * 100} ${strip.transform.baseVal[0].matrix.f})`,
      );
  };

  // ---- drag: a piece, its aim, its height, or the sheet
  document.addEventListener("pointerdown", (event) => {
    if (!board() || event.button) return;
    const aims = event.target.closest("[data-aims]"),
      node = event.target.closest("[data-piece]"),
      lifts = event.target.closest("[data-lifts]");
    const start = { px: event.clientX, py: event.clientY };
    if (aims) drag = { kind: "aim", node: node, ...start };
    else if (node) drag = { kind: "move", node, grip: metres(event), from: where(node), ...start };
    else if (lifts)
      drag = {
        kind: "lift",
        node: document.querySelector(`[data-piece="${CSS.escape(lifts.dataset.lifts)}"]`),
        strip: lifts,
        ...start,
      };
    else if (event.target.closest("#throw-plan") && event.pointerType === "mouse")
      drag = {
        kind: "sheet",
        box: plan().viewBox.baseVal,
        x: plan().viewBox.baseVal.x,
        y: plan().viewBox.baseVal.y,
        ...start,
      };
    if (drag?.node?.classList.contains("is-locked")) drag = { kind: "choose", node: drag.node, ...start };
    if (drag) event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!drag) return;
    if (!drag.moved && Math.hypot(event.clientX - drag.px, event.clientY - drag.py) < 4) return;
    drag.moved = true;
    if (drag.kind === "move") {
      const at = metres(event);
      const to = snapped(drag.node, drag.from.x_m + at.x - drag.grip.x, drag.from.y_m + at.y - drag.grip.y);
      drag.to = { x_m: to.x, y_m: to.y };
      place(drag.node, to.x, to.y);
      attempt([set(drag.node, drag.to)]);
    } else if (drag.kind === "aim") {
      const at = metres(event),
        from = where(drag.node);
      const bearing = ((Math.atan2(at.x - from.x_m, at.y - from.y_m) * 180) / Math.PI + 360) % 360;
      drag.to = { bearing_deg: Math.round(bearing * 10) / 10 };
      if (listed(drag.node) === "lamps") drag.to.aims_at = "";
      drag.node.querySelector("g").setAttribute("transform", `rotate(${bearing})`);
      attempt([set(drag.node, drag.to)]);
    } else if (drag.kind === "lift") {
      const svg = drag.strip.ownerSVGElement,
        floor = Number(
          svg
            .querySelector(".strip-floor")
            .getAttribute("d")
            .match(/M0 ([\d.]+)/)[1],
        );
      const z = Math.max(0, round(floor / 100 - metres(event, svg).up));
      drag.to = { z_m: z };
      drag.strip.setAttribute(
        "transform",
        `translate(${drag.strip.transform.baseVal[0].matrix.e} ${floor - z * 100})`,
      );
      attempt([set(drag.node, drag.to)]);
    } else if (drag.kind === "sheet") {
      const scale = plan().getScreenCTM().a;
      zoom = {
        x: drag.x - (event.clientX - drag.px) / scale,
        y: drag.y - (event.clientY - drag.py) / scale,
        width: drag.box.width,
        height: drag.box.height,
      };
      settle();
    }
  });
  document.addEventListener("pointerup", async () => {
    if (!drag) return;
    const done = drag;
    drag = null;
    waiting = null;
    if (done.moved && done.to) await keep(changesFor(done.node, done.to), done.node.dataset.piece);
    else if (done.node && !done.moved) choose(done.node.dataset.piece);
  });
  // A group moves together: the others by as much.
  const changesFor = (node, to) => {
    const changes = [set(node, to)],
      group = node.dataset.group;
    if (!group || !("x_m" in to)) return changes;
    const from = where(node),
      dx = to.x_m - from.x_m,
      dy = to.y_m - from.y_m;
    for (const other of document.querySelectorAll(`[data-group="${CSS.escape(group)}"]`)) {
      if (other === node || other.classList.contains("is-locked")) continue;
      changes.push(set(other, { x_m: round(where(other).x_m + dx), y_m: round(where(other).y_m + dy) }));
    }
    return changes;
  };
  const choose = async (piece) => {
    const answer = await fetch(`${board().dataset.base}?piece=${encodeURIComponent(piece)}`, {
      headers: { "HX-Request-Type": "partial" },
    });
    history.replaceState(null, "", `${board().dataset.base}?piece=${encodeURIComponent(piece)}`);
    show(await answer.text(), piece);
  };

  // ---- zoom
  const settle = () => {
    const svg = plan();
    if (svg && zoom) svg.setAttribute("viewBox", `${zoom.x} ${zoom.y} ${zoom.width} ${zoom.height}`);
    lay();
  };
  // The light lies under the whole sheet, of which the zoom shows a part.
  const lay = () => {
    const canvas = document.querySelector(".light-field"),
      shown = plan()?.viewBox.baseVal;
    if (!canvas || !shown || !whole) return;
    const [x, y, width, height] = whole.split(" ").map(Number),
      percent = (part, of) => `${(part / of) * 100}%`;
    Object.assign(canvas.style, {
      left: percent(x - shown.x, shown.width),
      top: percent(y - shown.y, shown.height),
      width: percent(width, shown.width),
      height: percent(height, shown.height),
    });
  };
  const zoomed = (factor) => {
    const box = plan().viewBox.baseVal,
      width = box.width * factor,
      height = box.height * factor;
    zoom = { x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, width, height };
    settle();
  };
  document.addEventListener(
    "wheel",
    (event) => {
      if (!event.target.closest?.("#throw-plan") || !event.ctrlKey) return;
      event.preventDefault();
      zoomed(event.deltaY > 0 ? 1.15 : 1 / 1.15);
    },
    { passive: false },
  );

  // ---- the light over a plane, in whole stops
  const paint = async (which) => {
    const onWall = which.startsWith("wall-"),
      canvas = document.querySelector(onWall ? ".wall-field" : ".light-field");
    const answer = await fetch(`${board().dataset.base}/field?plane=${which}`);
    if (!answer.ok) return;
    const { columns, rows, stops } = await answer.json();
    canvas.width = columns;
    canvas.height = rows;
    const ink = canvas.getContext("2d"),
      image = ink.createImageData(columns, rows);
    stops.forEach((stop, at) => {
      const band = stop === null ? -14 : Math.floor(stop);
      const shade = Math.min(Math.max(128 + band * 18, 14), 250);
      image.data.set([shade, shade, shade, 255], at * 4);
    });
    ink.putImageData(image, 0, 0);
    if (onWall) {
      canvas.hidden = false;
      return;
    }
    canvas.hidden = false;
    lay();
    document.querySelector(".plan-frame").classList.add("shows-field");
  };

  // ---- buttons
  document.addEventListener("click", async (event) => {
    const node = event.target.closest?.("[data-zoom], [data-field], [data-switch], [data-solo]");
    if (!node || !board()) return;
    if (node.dataset.zoom === "in") zoomed(1 / 1.3);
    if (node.dataset.zoom === "out") zoomed(1.3);
    if (node.dataset.zoom === "whole") {
      zoom = null;
      plan().setAttribute("viewBox", whole);
      lay();
    }
    if (node.dataset.field) {
      field = field === node.dataset.field ? "" : node.dataset.field;
      if (field) await paint(field);
      else {
        document.querySelector(".light-field").hidden = true;
        document.querySelector(".plan-frame").classList.remove("shows-field");
      }
    }
    if (node.dataset.switch)
      await keep([
        {
          operation: "set",
          where: "lamps",
          piece_id: node.dataset.switch,
          to: { is_on: !node.dataset.on },
          was: { is_on: Boolean(node.dataset.on) },
        },
      ]);
    if (node.dataset.solo) await solo(node);
  });
  const solo = async (node) => {
    if (document.getElementById("who").dataset.solo === node.dataset.solo) {
      await choose(board().dataset.chosen || "camera");
      return;
    }
    const others = [...document.querySelectorAll("[data-switch]")].map((each) => each.dataset.switch);
    drag = {};
    await attempt(
      others.map((piece) => ({
        operation: "set",
        where: "lamps",
        piece_id: piece,
        to: { is_on: piece === node.dataset.solo },
      })),
    );
    drag = null;
    document.getElementById("who").dataset.solo = node.dataset.solo;
  };

  // ---- level sliders: the scale is in stops under full
  const level = (input) => Math.max(2 ** (Number(input.value) / 10), Number(input.dataset.lowest));
  document.addEventListener("input", (event) => {
    const input = event.target;
    if (!input.dataset?.level) return;
    input.nextElementSibling.textContent = `${(level(input) * 100).toPrecision(2)} %`;
  });
  document.addEventListener("change", (event) => {
    const input = event.target;
    if (input.matches?.("[data-walls]")) {
      field = input.value;
      document.querySelector(".light-field").hidden = true;
      document.querySelector(".wall-field").hidden = !field;
      document.querySelector(".plan-frame").classList.remove("shows-field");
      if (field) paint(field);
      return;
    }
    if (!input.dataset?.level) return;
    keep([
      {
        operation: "set",
        where: "lamps",
        piece_id: input.dataset.level,
        to: { level: Math.round(level(input) * 1e4) / 1e4 },
        was: { level: Number(input.dataset.was) },
      },
    ]);
  });

  // ---- exact entry saves itself field by field: Enter has done so before it submits, and would do it twice
  document.addEventListener("submit", (event) => {
    if (event.target.matches?.("#board .inspector .record")) event.preventDefault();
  });

  // ---- keys on a piece
  const nudge = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
  document.addEventListener(
    "keydown",
    async (event) => {
      const node = event.target.closest?.("[data-piece]");
      if (!node || event.ctrlKey || event.metaKey || event.altKey) return;
      const lamp = listed(node) === "lamps",
        foot = board().dataset.units === "imperial" ? 0.3048 : 1.0;
      const stop = () => {
        event.preventDefault();
        event.stopPropagation();
      };
      if (nudge[event.key] && !node.classList.contains("is-locked")) {
        stop();
        const step =
            board().dataset.units === "imperial" ? (event.shiftKey ? foot : foot / 4) : event.shiftKey ? 1 : 0.1,
          [dx, dy] = nudge[event.key],
          from = where(node);
        await keep(
          changesFor(node, { x_m: round(from.x_m + dx * step), y_m: round(from.y_m + dy * step) }),
          node.dataset.piece,
        );
      } else if (event.key === "PageUp" || event.key === "PageDown") {
        stop();
        await keep(
          [
            set(node, {
              z_m: round(
                Math.max(
                  0,
                  where(node).z_m +
                    (event.key === "PageUp" ? 1 : -1) * (board().dataset.units === "imperial" ? foot / 4 : 0.1),
                ),
              ),
            }),
          ],
          node.dataset.piece,
        );
      } else if (event.key === "Enter" || event.key === " ") {
        stop();
        await choose(node.dataset.piece);
      } else if ((event.key === "," || event.key === ".") && listed(node) !== "spots") {
        stop();
        const turn = event.key === "," ? -5 : 5,
          to = { bearing_deg: (Number(node.dataset.bearing) + turn + 360) % 360 };
        if (lamp) to.aims_at = "";
        await keep([set(node, to)], node.dataset.piece);
      } else if (lamp && (event.key === "[" || event.key === "]")) {
        stop();
        const input = document.querySelector(`[data-level="${CSS.escape(node.dataset.piece)}"]`),
          now = Number(input.dataset.was);
        const to = Math.min(
          Math.max(now * 2 ** (event.key === "]" ? 1 / 3 : -1 / 3), Number(input.dataset.lowest)),
          1,
        );
        await keep(
          [
            {
              operation: "set",
              where: "lamps",
              piece_id: node.dataset.piece,
              to: { level: Math.round(to * 1e4) / 1e4 },
              was: { level: now },
            },
          ],
          node.dataset.piece,
        );
      } else if (lamp && event.key === "x") {
        stop();
        document.querySelector(`[data-switch="${CSS.escape(node.dataset.piece)}"]`).click();
      } else if (event.key === "Delete" && listed(node) !== "camera") {
        stop();
        await keep([{ operation: "remove", where: listed(node), piece_id: node.dataset.piece }], "");
      } else if (event.key === "c" && listed(node) !== "camera") {
        stop();
        try {
          show(await (await ask(`/copy/${node.dataset.piece}`, {})).text());
        } catch {
          unkept();
        }
      }
    },
    true,
  );

  document.addEventListener("DOMContentLoaded", () => {
    whole = plan()?.getAttribute("viewBox");
  });

  // ---- what others change
  // What was typed and not sent, or was refused just now, is not swept away by what somebody else did.
  const unsent = () =>
    board().querySelector(".bad") !== null ||
    [...board().querySelectorAll(".record input:not([type=hidden]):not([type=checkbox]), .record textarea")].some(
      (each) => each.value !== each.defaultValue,
    );
  setInterval(async () => {
    if (!board() || drag || asking || document.hidden || unsent()) return;
    const chosen = board().dataset.chosen,
      version = board().dataset.version;
    const answer = await fetch(`${board().dataset.base}/since/${version}?piece=${encodeURIComponent(chosen)}`, {
      headers: { "HX-Request-Type": "partial" },
    });
    if (answer.status !== 200 || drag || unsent() || board().dataset.version !== version) return;
    const focused = document.activeElement?.dataset?.piece;
    show(await answer.text(), focused);
  }, 2000);
})();
