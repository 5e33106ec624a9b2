// The trade's terms on a page can be touched: each is marked where it first stands, and shown with its figure.
(() => {
  const OFF = "a, button, summary, svg, kbd, input, textarea, select, option, label, legend, h1, h2, .visually-hidden, .term, .strip, .build-sheet, .field, .events-grid, .kind-part, [data-no-terms], [data-free-text]";
  let keys = null; // writing -> name
  let pattern = null;

  const card = () => {
    let found = document.getElementById("term-card");
    if (!found) {
      found = document.createElement("div");
      found.id = "term-card";
      found.className = "term-card";
      found.setAttribute("role", "status");
      found.popover = "auto";
      document.body.append(found);
    }
    return found;
  };

  const mark = (root) => {
    if (!pattern) return;
    const seen = new Set([...root.querySelectorAll(".term")].map((each) => each.dataset.term));
    const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT, {
      acceptNode: (node) =>
        node.nodeValue.trim().length < 3 || node.parentElement.closest(OFF) ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT,
    });
    const nodes = [];
    while (walker.nextNode()) nodes.push(walker.currentNode);
    for (const node of nodes) {
      pattern.lastIndex = 0;
      for (let match = pattern.exec(node.nodeValue); match; match = pattern.exec(node.nodeValue)) {
        const key = keys.get(match[0].toLowerCase());
        if (seen.has(key)) continue;
        seen.add(key);
        const word = node.splitText(match.index);
        const rest = word.splitText(match[0].length);
        const term = document.createElement("dfn");
        term.className = "term";
        term.dataset.term = key;
        term.tabIndex = 0;
        term.setAttribute("role", "button");
        word.replaceWith(term);
        term.append(word);
        nodes.push(rest);
        break;
      }
    }
  };

  const all = () => {
    const root = document.getElementById("bench") ?? document.querySelector("main");
    if (root) mark(root);
  };

  document.addEventListener("keydown", (event) => {
    const term = event.target.closest && event.target.closest(".term");
    const closes = event.key === "Escape" && document.querySelector(".term-card:popover-open");
    if (!term || !(closes || [" ", "Enter"].includes(event.key))) return;
    event.preventDefault();
    event.stopPropagation();
    if (closes) card().hidePopover();
    else term.click();
  }, true);

  document.addEventListener("click", async (event) => {
    const term = event.target.closest && event.target.closest(".term");
    if (!term) return;
    event.preventDefault();
    const shown = card();
    let words = "";
    try {
      const answer = await fetch(`${document.documentElement.dataset.root}help/terms/${term.dataset.term}`);
      words = answer.ok ? await answer.text() : "";
    } catch {
      words = "";
    }
    shown.innerHTML = words || "<p>Uranograph does not answer just now.</p>";
    const at = term.getBoundingClientRect();
    shown.showPopover();
    const own = shown.getBoundingClientRect();
    shown.style.left = `${Math.max(8, Math.min(at.left, innerWidth - own.width - 8))}px`;
    shown.style.top = `${at.bottom + own.height + 8 < innerHeight ? at.bottom + 6 : Math.max(8, at.top - own.height - 6)}px`;
  });

  document.addEventListener("htmx:afterSwap", () => queueMicrotask(all));
  addEventListener("load", async () => {
    try {
      const writings = await (await fetch(`${document.documentElement.dataset.root}help/terms.json`)).json();
      keys = new Map(Object.entries(writings).map(([writing, key]) => [writing.toLowerCase(), key]));
    } catch {
      return;
    }
    const longest = [...keys.keys()].sort((one, other) => other.length - one.length);
    const plain = longest.filter((each) => /^[a-z]/.test(each)).map((each) => each.replace(/[^a-z ]/g, "\\$&"));
    pattern = new RegExp(`\\b(?:${plain.join("|")})\\b`, "gi");
    all();
  });
})();
