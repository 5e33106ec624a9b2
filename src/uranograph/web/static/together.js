// Two people at one reading: one reads the wheel, the other the dial, each at a page of their own. What one passes on fills
// the other's empty field, and one Enter records both; or the one at the dial says now, and the other reads the wheel.
(() => {
  const ROLE = "uranograph-reads";
  let company = [];
  let passed = [];
  let heard = "";

  const box = () => document.getElementById("together");
  const form = () => document.querySelector("form.reading-form");
  const own = () => document.getElementById("here")?.dataset.by ?? "";
  const role = () => (box()?.querySelector("[data-reads]") && !box().hidden ? (sessionStorage.getItem(ROLE) ?? "") : "");
  const say = (words) => {
    const line = box()?.querySelector("[data-together-words]");
    if (line && line.textContent !== words) line.textContent = words;
  };
  const where = { text: "the wheel", second: "the dial" };

  const hidden = (name, value) => {
    let field = form().querySelector(`input[name=${name}]`);
    if (!field) {
      field = Object.assign(document.createElement("input"), { type: "hidden", name });
      form().append(field);
    }
    field.value = value;
  };

  // The other half goes into its field, unless something of one's own stands there.
  const take = (each) => {
    const field = form().elements[each.what];
    if (!field || (field.value !== field.defaultValue && field.dataset.from !== each.by)) return false;
    field.value = each.text;
    field.dataset.from = each.by;
    if (each.side && form().elements.side) form().elements.side.value = each.side;
    hidden("with", each.by);
    say(`${each.by} reads ${each.text}${each.side ? ` ${each.side.toUpperCase()}` : ""} at ${where[each.what]}. Type yours: Enter records both.`);
    return true;
  };

  // What was passed on a while ago is not now: it is taken out again, so that no old half goes with a new one.
  const forget = (slot) => {
    for (const what of ["text", "second"]) {
      const field = form()?.elements[what];
      const from = field?.dataset?.from;
      if (!from || form().dataset.sent || passed.some((each) => each.by === from && each.slot === slot && each.what === what)) continue;
      field.value = field.defaultValue;
      delete field.dataset.from;
      form().querySelector("input[name=with]")?.remove();
      say(`${from} read that a while ago. Read both again.`);
    }
  };

  const shown = () => {
    const at = box();
    if (!at) return;
    const others = company.filter((each) => each.by !== own() && each.station === document.getElementById("here")?.dataset.station);
    at.hidden = !others.length;
    if (at.hidden) return;
    for (const button of at.querySelectorAll("[data-reads]")) button.setAttribute("aria-pressed", button.dataset.reads === sessionStorage.getItem(ROLE) ? "true" : "false");
    const slot = form()?.elements.slot?.value;
    forget(slot);
    for (const each of passed.filter((one) => one.by !== own() && one.slot === slot)) {
      if (each.what !== "now") take(each);
      else if (heard !== `${each.by} ${each.at}`) {
        heard = `${each.by} ${each.at}`;
        say(`${each.by}: now. Read the wheel.`);
        document.dispatchEvent(new CustomEvent("uranograph:tone"));
      }
    }
  };

  // Whoever reads the wheel types there.
  const settle = () => {
    shown();
    if (role() !== "text") return;
    const field = form()?.elements.text;
    field?.focus();
    field?.select();
  };

  const pass = async (what) => {
    const fields = form().elements;
    const text = what === "now" ? "" : fields[what].value.trim();
    const side = what === "text" ? (fields.side?.value ?? "") : "";
    const answer = await fetch(box().dataset.passUrl, {
      method: "POST",
      headers: { "Content-Type": "application/x-www-form-urlencoded" },
      body: new URLSearchParams({ slot: fields.slot.value, what, text, side }),
    }).catch(() => null);
    const found = answer ? await answer.json() : {};
    if (!answer?.ok) return say(found.error ?? "It could not be passed on.");
    if (what === "now") return say("Said.");
    if (found.other && take(found.other)) return form().requestSubmit(form().querySelector("button[type=submit]"));
    // The question is free again, so that what the other records is drawn.
    fields[what].value = fields[what].defaultValue;
    return say(`${text}${side ? ` ${side.toUpperCase()}` : ""} passed on. Waiting for ${what === "text" ? where.second : where.text}.`);
  };

  document.addEventListener("uranograph:here", (event) => {
    company = event.detail;
    shown();
  });
  document.addEventListener("uranograph:passed", (event) => {
    passed = event.detail;
    shown();
  });
  document.addEventListener("htmx:afterSwap", () => setTimeout(settle));
  document.addEventListener("click", (event) => {
    const reads = event.target.closest("[data-reads]");
    if (reads) {
      sessionStorage.setItem(ROLE, sessionStorage.getItem(ROLE) === reads.dataset.reads ? "" : reads.dataset.reads);
      settle();
    }
    if (event.target.closest("[data-say-now]")) void pass("now");
  });
  document.addEventListener(
    "keydown",
    (event) => {
      const what = role();
      if (event.key !== "Enter" || !what || !form() || event.target !== form().elements[what] || event.target.value.trim() === "") return;
      const other = form().elements[what === "text" ? "second" : "text"];
      if (other?.dataset.from) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      void pass(what);
    },
    true,
  );
})();
