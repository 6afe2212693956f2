"use strict";
const MOST_FOUND = 40;

for (const table of document.querySelectorAll("table")) {
  const body = table.tBodies[0];
  const heads = [...table.tHead.rows[0].cells];
  heads.forEach((head, place) => {
    const button = head.querySelector("button");
    if (!button) return;
    button.addEventListener("click", () => {
      const falling = head.getAttribute("aria-sort") === "ascending";
      heads.forEach(each => each.removeAttribute("aria-sort"));
      head.setAttribute("aria-sort", falling ? "descending" : "ascending");
      const key = row => {
        const cell = row.cells[place];
        return cell.dataset.value !== undefined ? Number(cell.dataset.value) : cell.textContent.trim();
      };
      const order = (one, other) => {
        const [a, b] = [key(one), key(other)];
        if (typeof a === "number" && typeof b === "number") return a - b;
        if (typeof a === "number") return -1;
        if (typeof b === "number") return 1;
        return a.localeCompare(b, undefined, { numeric: true });
      };
      body.append(...[...body.rows].sort((one, other) => (falling ? order(other, one) : order(one, other))));
    });
  });
}

for (const box of document.querySelectorAll(".table")) {
  const input = box.querySelector(".filter input");
  if (!input) continue;
  const rows = [...box.querySelectorAll("tbody tr")], count = box.querySelector(".count");
  input.addEventListener("input", () => {
    const wanted = input.value.trim().toLowerCase();
    let shown = 0;
    for (const row of rows) {
      row.hidden = wanted !== "" && !row.textContent.toLowerCase().includes(wanted);
      shown += row.hidden ? 0 : 1;
    }
    count.textContent = wanted ? `${shown} of ${rows.length} rows` : "";
  });
}

for (const button of document.querySelectorAll(".copy")) {
  button.addEventListener("click", async () => {
    const text = button.parentElement.querySelector("pre").textContent;
    try {
      await navigator.clipboard.writeText(text);
      button.textContent = "Copied";
    } catch {
      const range = document.createRange();
      range.selectNodeContents(button.parentElement.querySelector("pre"));
      getSelection().removeAllRanges();
      getSelection().addRange(range);
      button.textContent = "Selected: copy it with the keyboard";
    }
  });
}

for (const button of document.querySelectorAll("[data-film]")) {
  button.addEventListener("click", () => {
    const frame = document.createElement("iframe");
    frame.title = button.textContent;
    frame.srcdoc = JSON.parse(document.getElementById(button.dataset.film).textContent);
    button.replaceWith(frame);
  });
}

const contents = document.getElementById("contents");
if (matchMedia("(max-width: 800px)").matches) contents.open = false;
addEventListener("beforeprint", () => document.querySelectorAll("details.section").forEach(each => (each.open = true)));

const search = document.getElementById("search"), found = document.getElementById("found"), parts = document.getElementById("parts");
let index = null;

function indexed() {
  const pieces = document.querySelectorAll("main h2, main h3, main h4, main summary, main p, main li, main tbody tr, main dd");
  return [...pieces].map(piece => {
    const text = piece.textContent.replace(/\s+/g, " ").trim();
    return { piece, text, lower: text.toLowerCase() };
  });
}

function reveal(piece) {
  for (let each = piece; each; each = each.parentElement) if (each.tagName === "DETAILS") each.open = true;
  piece.scrollIntoView({ block: "center" });
  piece.classList.add("landed");
  setTimeout(() => piece.classList.remove("landed"), 2500);
}

search.addEventListener("input", () => {
  const words = search.value.trim().toLowerCase().split(/\s+/).filter(Boolean);
  index ??= indexed();
  const hits = words.length ? index.filter(each => words.every(word => each.lower.includes(word))) : [];
  parts.hidden = words.length > 0;
  found.hidden = words.length === 0;
  found.replaceChildren(...hits.slice(0, MOST_FOUND).map(hit => {
    const item = document.createElement("li"), link = document.createElement("a"), where = document.createElement("small");
    link.href = "#";
    link.textContent = hit.text.length > 90 ? hit.text.slice(0, 89) + "…" : hit.text;
    const near = hit.piece.closest("section")?.querySelector("h2, h3, h4");
    where.textContent = near ? near.textContent : "";
    link.addEventListener("click", event => { event.preventDefault(); reveal(hit.piece); });
    item.append(link, where);
    return item;
  }));
  if (words.length) {
    const end = document.createElement("li");
    end.textContent = hits.length > MOST_FOUND ? `${MOST_FOUND} of ${hits.length} places` : `${hits.length} place${hits.length === 1 ? "" : "s"}`;
    found.append(end);
  }
});

addEventListener("hashchange", () => {
  const target = document.getElementById(decodeURIComponent(location.hash.slice(1)));
  if (target) for (let each = target; each; each = each.parentElement) if (each.tagName === "DETAILS") each.open = true;
});
