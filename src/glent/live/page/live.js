// The page of the live view. It asks by messages (see `glent schema live`) and shows what it is told.
// Whatever the game says is put into the page as text or as an attribute's value, never as markup.
"use strict";

const VERSION = 1, MOST_ROWS = 600, MOST_NODES = 3000, SVG = "http://www.w3.org/2000/svg";
const $ = (id) => document.getElementById(id);
const make = (name, kind, text) => {
  const one = document.createElement(name);
  if (kind) one.className = kind;
  if (text !== undefined) one.textContent = text;
  return one;
};

let socket = null, nextId = 1, may = { write: false, open: false };
let nodes = [], rows = [], chosen = null, held = false, state = null, size = [1280, 800];
let point = [0, 0], droppedAll = 0;
const waiting = new Map();

// -- the link ---------------------------------------------------------------------------------------------------------

function connect() {
  $("again").hidden = true;
  socket = new WebSocket(`ws://${location.host}/messages`);
  socket.onopen = async () => {
    try {
      may = await ask({ ask: "hello", version: VERSION });
    } catch (error) {
      link(error.message, true);
      return;
    }
    size = may.size;
    $("file").textContent = may.file ? may.file.split(/[\\/]/).pop() : "a scene of code";
    $("file").title = may.file ?? "";
    link(may.write ? "watching" : "watching, read only");
    refresh();
  };
  socket.onmessage = (event) => told(JSON.parse(event.data));
  socket.onclose = (event) => {
    link(`not connected: ${event.reason || "the game has gone, or does not answer"}`, true);
    $("again").hidden = false;
    for (const { fail } of waiting.values()) fail(new Error("not connected"));
    waiting.clear();
  };
}

function link(text, wrong = false) {
  $("link").textContent = text;
  $("link").className = wrong ? "who nobody" : "";
}

function say(text, wrong = false) {
  $("said").textContent = text;
  $("said").title = text;
  $("said").className = wrong ? "wrong" : "";
}

function ask(message) {
  const id = nextId++;
  return new Promise((done, fail) => {
    if (!socket || socket.readyState !== WebSocket.OPEN) return fail(new Error("not connected"));
    waiting.set(id, { done, fail, parts: [] });
    socket.send(JSON.stringify({ ...message, id }));
  });
}

async function wish(message) {
  try {
    const answer = await ask(message);
    if (answer.tell === "done") say(answer.said);
    return answer;
  } catch (error) {
    say(error.message, true);
    return null;
  }
}

function told(message) {
  if (message.tell === "verdicts") return tellVerdicts(message);
  if (message.tell === "state") return tellState(message);
  const asked = waiting.get(message.id);
  if (!asked) return message.tell === "refused" ? say(message.why, true) : undefined;
  if (message.tell === "refused") {
    waiting.delete(message.id);
    return asked.fail(new Error(message.why));
  }
  if ("more" in message) {
    asked.parts.push(message.part);
    if (message.more) return;
    message.part = typeof message.part === "string" ? asked.parts.join("") : asked.parts.flat();
  }
  waiting.delete(message.id);
  asked.done(message);
}

// -- what is fetched again when the scene has changed --------------------------------------------------------------------

const fetched = { picture: [-1, 0, false], tree: [-1, 0, false], node: [-1, 0, false], found: [-1, 0, false] };
const PAUSE = { picture: 250, tree: 1000, node: 400, found: 400 };

function refresh() {
  if (!state) return;
  for (const what of Object.keys(fetched)) again(what);
}

async function again(what) {
  const one = fetched[what];
  const version = { picture: `${state.scene} ${state.looks}`, node: `${state.scene} ${state.changed.length} ${chosen}` }[what]
    ?? state.scene;
  const now = performance.now();
  if (one[2] || one[0] === version) return;
  if (now - one[1] < PAUSE[what]) return;
  one[2] = true;
  one[1] = now;
  try {
    if (what === "picture") showPicture(await ask({ ask: "picture" }));
    else if (what === "tree") showTree((await ask({ ask: "tree" })).part);
    else if (what === "found") await lookAgain();
    else if (chosen !== null) await showNode();
    one[0] = version;
    one[1] = performance.now() + 2 * (performance.now() - now);
  } catch (error) {
    one[0] = version;
    if (what === "node") chosenGone(error.message);
  } finally {
    one[2] = false;
  }
}

setInterval(refresh, 120);

function tellState(message) {
  state = message;
  $("clock").textContent = `${message.time.toFixed(2)} s`;
  const many = message.changed.length;
  $("changed").textContent = many ? `${many} changed` : "";
  $("changed").title = message.changed.map((one) => one.join(": ")).join("\n");
  $("undo").disabled = !may.write || !message.can_undo;
  $("redo").disabled = !may.write || !message.can_redo;
  $("revert").disabled = $("keep").disabled = !may.write || !many;
  const running = message.recorded !== null;
  $("record").textContent = running ? `Stop (${message.recorded})` : "Record";
  $("record").classList.toggle("on", running);
  refresh();
}

// -- the tree -----------------------------------------------------------------------------------------------------------

function showTree(part) {
  nodes = part;
  drawTree();
}

function drawTree() {
  const wanted = $("search").value.toLowerCase();
  const shown = nodes.filter((one) => !wanted || `${one.path} ${one.role ?? ""} ${one.called}`.toLowerCase().includes(wanted));
  const made = shown.slice(0, MOST_NODES).map((one) => {
    const row = make("div", `row${one.visible ? "" : " hidden"}${one.solidity === "ghost" ? " ghost" : ""}`);
    row.setAttribute("role", "treeitem");
    row.setAttribute("aria-level", one.depth + 1);
    row.style.paddingLeft = `${8 + (wanted ? 0 : one.depth * 14)}px`;
    row.dataset.path = one.path;
    row.append(make("span", "", wanted ? one.path : one.path.split("/").pop()));
    const more = [one.role, one.visible ? null : "hidden", one.enabled ? null : "disabled",
      ["solid", "hollow"].includes(one.solidity) ? null : one.solidity].filter(Boolean).join(", ");
    if (more) row.append(make("span", "role", `  ${more}`));
    return row;
  });
  if (shown.length > MOST_NODES) made.push(make("p", "empty", `and ${shown.length - MOST_NODES} more; search for them`));
  if (!shown.length) made.push(make("p", "empty", wanted ? "no node is called that" : "no nodes"));
  const top = $("tree").scrollTop;
  $("tree").replaceChildren(...made);
  $("tree").scrollTop = top;
  mark("tree");
}

function mark(id) {
  for (const row of $(id).querySelectorAll(".row")) row.setAttribute("aria-selected", row.dataset.path === chosen);
}

// -- the picture --------------------------------------------------------------------------------------------------------

function drawn(name, given) {
  const one = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(given)) one.setAttribute(key, value);
  return one;
}

function showPicture(message) {
  size = message.size;
  const picture = $("picture"), made = [];
  picture.setAttribute("viewBox", `0 0 ${size[0]} ${size[1]}`);
  message.part.forEach((piece, number) => {
    let look = piece.kind;
    if (piece.kind !== "glass" && piece.kind !== "text" && piece.control) look = "control";
    if (piece.kind !== "text" && ["hover", "pressed", "disabled"].includes(piece.look) && piece.control) look = piece.look;
    const group = drawn("g", {});
    if (piece.clip) {
      const [left, top, right, bottom] = piece.clip, clip = drawn("clipPath", { id: `clip-${number}` });
      clip.append(drawn("rect", { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) }));
      group.append(clip);
      group.setAttribute("clip-path", `url(#clip-${number})`);
    }
    const way = piece.rings.map((ring) => `M${ring.map((at) => at.join(" ")).join("L")}Z`).join("");
    const shape = drawn("path", { d: way, "fill-rule": "evenodd", class: `piece ${look}` });
    if (piece.colour && /^(#[0-9a-fA-F]{3,8}|[a-zA-Z]{3,30})$/.test(piece.colour)) shape.style.fill = piece.colour;
    group.append(shape);
    if (piece.text) {
      const high = Math.min(16, Math.max(9, piece.size[1] * .6));
      const room = Math.max(1, Math.floor(piece.size[0] / (high * .56)));
      const text = piece.text.length > room ? `${piece.text.slice(0, room - 1)}…` : piece.text;
      const words = drawn("text", { x: piece.at[0], y: piece.at[1], "font-size": high });
      words.textContent = text;
      group.append(words);
    }
    made.push(group);
  });
  const marks = drawn("g", { id: "marks" });
  picture.replaceChildren(...made, marks);
  drawMarks();
}

let lines = {};

function drawMarks() {
  const marks = $("marks");
  if (!marks) return;
  const made = [];
  for (const [kind, all] of Object.entries(lines))
    made.push(drawn("path", { class: `line ${kind}`, d: all.map(([a, b, c, d]) => `M${a} ${b}L${c} ${d}`).join("") }));
  const [x, y] = point;
  made.push(drawn("path", { class: "cross", d: `M${x - 9} ${y}H${x + 9}M${x} ${y - 9}V${y + 9}` }));
  marks.replaceChildren(...made);
}

$("picture").addEventListener("click", (event) => {
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform($("picture").getScreenCTM().inverse());
  lookAt(at.x, at.y);
});

$("picture").addEventListener("keydown", (event) => {
  const step = event.shiftKey ? 50 : 5;
  const way = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
  if (way) {
    point = [Math.max(0, Math.min(size[0] - 1, point[0] + way[0])), Math.max(0, Math.min(size[1] - 1, point[1] + way[1]))];
    drawMarks();
  } else if (event.key === "Enter" || event.key === " ") lookAt(...point);
  else return;
  event.preventDefault();
});

// -- what lies there ------------------------------------------------------------------------------------------------------

let looked = null;

async function look(message, about) {
  looked = { message, about };
  const answer = await wish(message);
  if (!answer) return;
  showFound(answer.found);
  const first = answer.found.find((one) => one.mark === "hit") ?? answer.found[0];
  if (first) choose(first.path);
}

async function lookAgain() {
  if (looked) showFound((await ask(looked.message)).found);
}

function lookAt(x, y, kind = "mouse", seat = null, about = "") {
  point = [Math.round(x), Math.round(y)];
  drawMarks();
  return look({ ask: "at", x: point[0], y: point[1], kind, seat }, `${about}at ${point[0]}, ${point[1]}`);
}

function showFound(found) {
  $("where").textContent = `${found.length} ${looked.about}, front to back, as it is now`;
  const made = found.map((one) => {
    const row = make("div", "row wraps");
    row.setAttribute("role", "option");
    row.dataset.path = one.path;
    row.append(make("span", `mark ${one.hit && one.mark === "hit" ? "hit" : "not"}`, one.mark), ` ${one.sentence}`);
    return row;
  });
  const top = $("found").scrollTop;
  $("found").replaceChildren(...(made.length ? made : [make("p", "empty", "nothing of the UI lies there")]));
  $("found").scrollTop = top;
  mark("found");
}

// -- a node ---------------------------------------------------------------------------------------------------------------

async function choose(path) {
  chosen = path;
  mark("tree");
  mark("found");
  const row = [...$("tree").querySelectorAll(".row")].find((one) => one.dataset.path === path);
  if (row) row.scrollIntoView({ block: "nearest" });
  try {
    await showNode();
  } catch (error) {
    chosenGone(error.message);
  }
}

function chosenGone(why) {
  say(why, true);
  chosen = null;
  lines = {};
  drawMarks();
  $("node-title").textContent = "No node is chosen";
  $("about").textContent = "";
  $("attributes").replaceChildren();
  fields = { path: null, of: new Map() };
  $("open").hidden = true;
}

async function showNode() {
  const node = await ask({ ask: "node", path: chosen });
  if (node.path !== chosen) return;
  lines = node.lines;
  drawMarks();
  $("node-title").textContent = node.path;
  $("node-title").title = node.path;
  $("about").textContent = [node.role ?? "no role", node.solidity, `looks ${node.look}`,
    node.source ? node.source.split(/[\\/]/).pop() : "stands in no file"].join(" · ");
  $("about").title = node.source ?? "";
  $("open").hidden = !(may.open && node.source);
  if (fields.path === node.path) {
    for (const one of node.attributes) fields.of.get(one.name)?.show(one);
    return;
  }
  const groups = new Map();
  fields = { path: node.path, of: new Map() };
  for (const one of node.attributes) {
    if (!groups.has(one.group)) {
      const group = make("fieldset");
      group.append(make("legend", "", one.group));
      groups.set(one.group, group);
    }
    const made = field(node.path, one);
    fields.of.set(one.name, made);
    made.show(one);
    groups.get(one.group).append(made.row);
  }
  $("attributes").replaceChildren(...groups.values());
}

let fields = { path: null, of: new Map() };

// A field of an attribute; show() brings it in line with what that is, and leaves alone what is being typed.
function field(path, one) {
  const row = make("div", "field"), id = `field ${one.name}`;
  const label = make("label", "", one.name);
  label.htmlFor = id;
  const input = make(one.kind === "choice" ? "select" : "input");
  let began = "", show;
  if (one.kind === "flag") {
    input.type = "checkbox";
    show = (value) => { input.checked = value; };
    input.onchange = () => change(path, one.name, input.checked);
  } else if (one.kind === "choice") {
    one.options.forEach((option, number) => {
      const entry = make("option", "", option === null ? "unset" : option === true ? "yes" : option === false ? "no" : option);
      entry.value = number;
      input.append(entry);
    });
    show = (value) => { input.value = one.options.indexOf(value); };
    input.onchange = () => change(path, one.name, one.options[Number(input.value)]);
  } else {
    input.type = "text";
    input.placeholder = one.kind;
    show = (value) => {
      const text = value === null ? "" : typeof value === "string" ? value : JSON.stringify(value);
      if (document.activeElement !== input || input.value === began) input.value = text;
      began = text;
    };
    const enter = () => {
      if (input.value === began) return;
      const read = valueOf(one.kind, input.value.trim());
      if (read.wrong) say(`${one.name}: ${read.wrong}`, true);
      else change(path, one.name, read.value);
    };
    input.onkeydown = (event) => {
      if (event.key === "Enter") enter();
      if (event.key === "Escape") input.value = began;
    };
    input.onblur = () => {
      enter();
      if (valueOf(one.kind, input.value.trim()).wrong) input.value = began;
    };
  }
  input.id = id;
  input.disabled = !may.write;
  row.append(label, input);
  return {
    row,
    show(now) {
      row.classList.toggle("changed", now.changed);
      show(now.value);
    },
  };
}

function valueOf(kind, text) {
  if (text === "") return { value: null };
  if (kind === "text") return { value: text };
  if ((kind === "number" || kind === "length") && Number.isFinite(Number(text))) return { value: Number(text) };
  if (kind === "number") return { wrong: `found ${text}; expected a number` };
  if (kind === "length") return { value: text };
  try {
    return { value: JSON.parse(text) };
  } catch {
    if (/^[\w\-]+([ ,]+[\w\-]+)*$/.test(text)) return { value: text.split(/[ ,]+/) };
    return { wrong: `found ${text}; expected JSON, such as a number or a list of words` };
  }
}

async function change(path, name, value) {
  await wish({ ask: "set", path, name, value });
  if (path === chosen) await showNode().catch((error) => chosenGone(error.message));
}

$("attributes").addEventListener("submit", (event) => event.preventDefault());

// -- verdicts -------------------------------------------------------------------------------------------------------------

function tellVerdicts(message) {
  rows.push(...message.rows);
  if (rows.length > MOST_ROWS) rows.splice(0, rows.length - MOST_ROWS);
  droppedAll += message.dropped;
  $("dropped").textContent = droppedAll ? `${droppedAll} left out` : "";
  if (!held) drawVerdicts();
}

const whoOf = (row) => (row.world ? "world" : row.owner ? "ui" : "nobody");

function isShown(row) {
  if (!$(whoOf(row)).checked) return false;
  if (!$("moves").checked && row.sample === "pointer" && / move$/.test(row.what) && !row.events.length) return false;
  const text = $("filter").value.toLowerCase();
  return !text || `${row.what} ${row.why} ${row.events.join(" ")}`.toLowerCase().includes(text);
}

let picked = null;

function drawVerdicts() {
  const list = $("verdicts"), atEnd = list.scrollTop + list.clientHeight >= list.scrollHeight - 30;
  const made = rows.filter(isShown).map((row) => {
    const one = make("div", "row");
    one.setAttribute("role", "option");
    one.setAttribute("aria-selected", row.number === picked);
    one.dataset.number = row.number;
    one.append(make("span", "time", `${row.time.toFixed(2)} `), make("span", `who ${whoOf(row)}`, row.world ? "world" : row.owner ?? "nobody"),
      ` ${row.what}${row.times > 1 ? ` ×${row.times}` : ""}: ${row.why}`);
    one.title = [row.why, ...row.events, ...row.lifts.map((lift) => `lifted: ${lift}`)].join("\n");
    return one;
  });
  list.replaceChildren(...(made.length ? made : [make("p", "empty", "no verdict yet, or none that the filters let through")]));
  if (atEnd && picked === null) list.scrollTop = list.scrollHeight;
}

async function why(number) {
  const row = rows.find((one) => one.number === number);
  if (!row) return;
  picked = number;
  drawVerdicts();
  const story = [row.why, ...row.events.map((event) => `told: ${event}`), ...row.lifts.map((lift) => `lifted: ${lift}`)].join("; ");
  if ("x" in row) await lookAt(row.x, row.y, row.kind, row.seat, `for the ${row.what} `);
  else if ("origin" in row)
    await look({ ask: "along", origin: row.origin, direction: row.direction, seat: row.seat }, "along the ray");
  else if (row.owner) choose(row.owner);
  say(story);
}

$("hold").onclick = () => {
  held = !held;
  picked = held ? picked : null;
  $("hold").setAttribute("aria-pressed", held);
  drawVerdicts();
};
for (const id of ["world", "ui", "nobody", "moves", "filter"]) $(id).addEventListener("input", drawVerdicts);
$("search").addEventListener("input", drawTree);

// -- findings ---------------------------------------------------------------------------------------------------------------

let checking = false, checked = null;

// A check runs beside the game. It is made again by itself when something was changed after the first one was asked for.
async function check() {
  if (checking || !state) return;
  checking = true;
  checked = state.edits;
  $("check").textContent = "Checking …";
  const answer = await wish({ ask: "check" });
  checking = false;
  $("check").textContent = "Check";
  if (answer) showFindings(answer.found);
}

function showFindings(found) {
  $("findings-title").textContent = `Findings: ${found.length}`;
  const made = found.map((one) => {
    const row = make("div", "row wraps");
    row.setAttribute("role", "option");
    row.dataset.path = one.nodes[0] ?? "";
    row.title = one.shown;
    row.append(make("span", "mark not", one.code), ` ${one.sentence}`);
    if (one.change && may.write && one.change.name !== "place") {
      const mend = make("button", "", one.mend);
      mend.type = "button";
      mend.title = "tried, and it cures this";
      mend.onclick = async (event) => {
        event.stopPropagation();
        await change(one.change.path, one.change.name, one.change.value);
        check();
      };
      row.append(make("br"), mend);
    } else if (one.mend) row.append(make("br"), make("span", "role", `mend: ${one.mend}`));
    return row;
  });
  $("findings").replaceChildren(...(made.length ? made : [make("p", "empty", "no fault that an input shows")]));
}

function showFinding(row) {
  for (const one of $("findings").querySelectorAll(".row")) one.setAttribute("aria-selected", one === row);
  say(row.title);
  if (row.dataset.path) choose(row.dataset.path);
}

$("check").onclick = check;
setInterval(() => {
  if (checked !== null && state && state.edits !== checked) check();
}, 800);

// -- lists by mouse and keyboard --------------------------------------------------------------------------------------------

function listens(id, pick) {
  const list = $(id);
  list.addEventListener("click", (event) => {
    const row = event.target.closest(".row");
    if (row) pick(row);
  });
  list.addEventListener("keydown", (event) => {
    const all = [...list.querySelectorAll(".row")];
    if (!all.length) return;
    const at = all.findIndex((row) => row.getAttribute("aria-selected") === "true");
    const to = { ArrowDown: at + 1, ArrowUp: at < 0 ? all.length - 1 : at - 1, Home: 0, End: all.length - 1, PageDown: at + 10, PageUp: at - 10 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    const row = all[Math.max(0, Math.min(all.length - 1, to))];
    pick(row);
    row.scrollIntoView({ block: "nearest" });
  });
}
listens("tree", (row) => choose(row.dataset.path));
listens("found", (row) => choose(row.dataset.path));
listens("findings", showFinding);
listens("verdicts", (row) => why(Number(row.dataset.number)));

// -- changes, recording, editor ----------------------------------------------------------------------------------------------

for (const id of ["undo", "redo", "revert", "keep"]) $(id).onclick = () => wish({ ask: id });
document.addEventListener("keydown", (event) => {
  if (!(event.ctrlKey || event.metaKey) || event.target.matches("input[type=text], input[type=search]")) return;
  const id = { z: event.shiftKey ? "redo" : "undo", y: "redo", s: "keep" }[event.key.toLowerCase()];
  if (!id) return;
  event.preventDefault();
  if (!$(id).disabled) wish({ ask: id });
});
$("open").onclick = () => wish({ ask: "open", path: chosen });
$("again").onclick = connect;
$("record").onclick = async () => {
  if (!state || state.recorded === null) {
    await wish({ ask: "record" });
    return;
  }
  const answer = await wish({ ask: "stop" });
  if (!answer) return;
  const recorded = answer.part;
  const link = make("a"), address = URL.createObjectURL(new Blob([recorded], { type: "application/jsonl" }));
  link.href = address;
  link.download = "live.jsonl";
  link.click();
  URL.revokeObjectURL(address);
  say(`${recorded.trim().split("\n").length - 1} samples were recorded, and are in live.jsonl`);
};

drawVerdicts();
connect();
