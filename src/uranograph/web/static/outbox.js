// Readings go out one after the other, each under the question it was typed for. The field stays in the hand: what is typed
// while an answer is under way is neither swapped away nor cut.
(() => {
  const FORM = "form.reading-form[data-draft]";
  const WAIT = "One moment: the last answer is still being written.";
  const PLACE = `uranograph:outbox:${location.pathname}`;
  let sending = null; // what is under way: {action, data, typed}
  let queue = []; // what was typed since, in order: {name: text}
  let away = false; // the server does not answer
  let refused = false; // the server did not take one; it comes before the rest
  let back = null; // a refused one that waits until the field is free
  let stray = []; // typed ahead of a question that takes no figure
  let onward = null; // a link or key pressed meanwhile
  const touched = new Set();
  let entered = null; // the field that the cursor went to since the last answer was sent

  const form = () => document.querySelector(FORM);
  const reading = () => form() && form().querySelector("[data-reading]");
  const busy = () => sending !== null || queue.length > 0;

  const own = (field) => field.name && field.type !== "hidden" && field.type !== "file";
  const value = (field) => (field.type === "checkbox" ? (field.checked ? field.value : "") : field.value);

  const typedIn = (of) => {
    const typed = {};
    for (const field of of.elements) {
      if (!own(field) || (field.type === "radio" && !field.checked)) continue;
      if (field.hasAttribute("data-reading") || touched.has(field.name)) typed[field.name] = value(field);
    }
    return typed;
  };

  const fill = (of, typed) => {
    for (const field of of.elements) {
      if (!own(field) || !(field.name in typed) || field.readOnly) continue;
      if (field.type === "radio") field.checked = field.value === typed[field.name];
      else if (field.type === "checkbox") field.checked = field.value === typed[field.name];
      else field.value = typed[field.name];
    }
  };

  const figure = (typed) => {
    const field = reading();
    return (field && typed[field.name]) || Object.values(typed)[0] || "";
  };

  const notice = (words) => {
    const told = document.getElementById("notice");
    told.textContent = words;
    told.hidden = !words;
  };

  const keep = () => {
    if (busy()) sessionStorage.setItem(PLACE, JSON.stringify({ sending, queue }));
    else sessionStorage.removeItem(PLACE);
  };

  const show = () => {
    keep();
    document.querySelectorAll(".outbox").forEach((line) => line.remove());
    const words = [];
    if (back) words.push(`Not taken: “${figure(back)}”. Finish this one and press Enter: that one comes back first.`);
    else if (refused && queue.length) words.push("Put this right and press Enter; the others follow.");
    if (sending && away) words.push(`Sent as soon as Uranograph answers: ${figure(sending.typed)}.`);
    else if (sending) words.push(`Recording ${figure(sending.typed)}.`);
    if (queue.length) words.push(`Waiting: ${queue.map(figure).join(", ")}.`);
    if (stray.length) words.push(`Typed before this question came, and not recorded: ${stray.map(figure).join(", ")}.`);
    if (!words.length || !form()) return;
    const line = document.createElement("p");
    line.className = "outbox";
    line.setAttribute("role", "status");
    line.textContent = words.join(" ");
    if (sending && away) {
      const take = document.createElement("button");
      take.type = "button";
      take.className = "button";
      take.textContent = "Take it back";
      take.addEventListener("click", () => {
        const { typed } = sending;
        sending = null;
        // Sent under a token of its own, so that what may have been written all the same is told, not taken for this.
        if (form()) form().elements.token.value = crypto.getRandomValues(new Uint32Array(3)).join("-");
        putBack(typed, "it was taken back.");
      });
      line.append(take);
    }
    if ((refused || back) && queue.length) {
      const leave = document.createElement("button");
      leave.type = "button";
      leave.className = "button";
      leave.textContent = "Leave it out";
      leave.addEventListener("click", () => {
        const field = reading();
        if (!back && field) field.value = "";
        refused = false;
        back = null;
        next();
      });
      line.append(leave);
    }
    (form().querySelector(".slot.waiting") || form()).append(line);
  };

  const post = async (action, data, typed) => {
    sending = { action, data, typed };
    show();
    const mine = sending;
    let answer = null;
    let text = "";
    while (answer === null) {
      try {
        answer = await fetch(action, {
          method: "POST",
          headers: { "HX-Request": "true" },
          body: new URLSearchParams(data),
        });
        text = await answer.text();
      } catch {
        answer = null;
        away = true;
        show();
        await window.uranographAway.back();
        away = false;
        // Meanwhile it may have been taken back.
        if (sending !== mine) return undefined;
      }
    }
    const sent = sending;
    sending = null;
    if (answer.headers.get("HX-Redirect")) return location.assign(answer.headers.get("HX-Redirect"));
    if (answer.ok) {
      notice("");
      refused = false;
      swap(text);
      return next();
    }
    if ([409, 422, 503].includes(answer.status)) {
      const typing = reading() && reading().value !== "";
      refused = true;
      onward = null;
      if (typing) back = sent.typed;
      swap(text);
      return show();
    }
    return putBack(sent.typed, text);
  };

  // Nothing was written: what was sent is typed again, and what was typed since waits behind it.
  const putBack = (typed, words) => {
    refused = true;
    onward = null;
    const field = reading();
    if (field && field.value !== "") back = typed;
    else if (form()) fill(form(), typed);
    if (form()) form().dispatchEvent(new Event("input", { bubbles: true }));
    touched.clear();
    notice(`Not recorded: ${words.slice(0, 300)}`);
    show();
  };

  // `quiet` where another page wrote: the cursor goes nowhere.
  const swap = (html, quiet = false) => {
    const old = document.getElementById("bench");
    const parsed = document.createElement("template");
    parsed.innerHTML = html;
    const fresh = parsed.content.querySelector("#bench");
    if (!old || !fresh) return;
    const at = document.activeElement;
    const inForm = form() && form().contains(at);
    const held = { id: at && at.id, reading: inForm && at.hasAttribute("data-reading"), typed: form() ? typedIn(form()) : {} };
    if (inForm && at.matches("input:not([type=radio]):not([type=checkbox])")) {
      held.start = at.selectionStart;
      held.end = at.selectionEnd;
    }
    const before = reading();
    const since = before && before.value !== "";
    const moved = [...touched].some((name) => name in held.typed);
    old.replaceWith(fresh);
    if (window.htmx) window.htmx.process(fresh);
    const now = form();
    const field = reading();
    // What was typed on stays in sight, though all may be read by now.
    if (field && (since || queue.length)) field.closest("details")?.setAttribute("open", "");
    if (now && (since || moved)) {
      if (field && before && field.name !== before.name && since) {
        field.value = before.value;
        delete held.typed[before.name];
      }
      if (!since && before) delete held.typed[before.name];
      fill(now, held.typed);
      if (!field && since) stray.push({ [before.name]: before.value });
    }
    fresh.dispatchEvent(new CustomEvent("htmx:afterSwap", { bubbles: true, detail: { target: fresh } }));
    // On a narrow screen the answer is looked at where the verdict is, above what was typed.
    const top = fresh.querySelector("[data-panel=do]");
    if (!quiet && innerWidth < 1024 && top && top.getBoundingClientRect().top < 0) top.scrollIntoView({ block: "start" });
    const stays = inForm && held.id && !held.reading && (entered === held.id || touched.has(at.name));
    const elsewhere = stays ? document.getElementById(held.id) : null;
    const wrong = now && now.querySelector("[aria-invalid=true]");
    const first = elsewhere || wrong || field || fresh.querySelector("[autofocus]");
    if (!first || (quiet && !inForm)) return;
    first.focus({ preventScroll: Boolean(elsewhere) || innerWidth < 1024 });
    if (held.start !== undefined && since && first.setSelectionRange) first.setSelectionRange(held.start, held.end);
    else if (first === field && field.value) field.setSelectionRange(field.value.length, field.value.length);
  };

  window.uranographOutbox = { busy, swap };

  const next = () => {
    if (!queue.length) {
      show();
      return leave();
    }
    if (!reading()) {
      stray.push(...queue);
      queue = [];
      return show();
    }
    const typed = queue.shift();
    const data = [...new FormData(form())].filter(([name]) => !(name in typed));
    return post(form().action, [...data, ...Object.entries(typed)], typed);
  };

  const leave = () => {
    if (!onward || refused) return;
    const { key, href } = onward;
    onward = null;
    const pressed = key && document.querySelector(`#bench [data-key="${CSS.escape(key)}"]`);
    if (pressed) pressed.click();
    else location.assign(href);
  };

  const take = (of, submitter) => {
    const field = reading();
    entered = null;
    stray = [];
    if (!field) {
      if (busy()) return notice(WAIT);
      const data = [...new FormData(of, submitter)];
      const chosen = of.querySelector("[data-answer]:checked");
      touched.clear();
      return post(of.action, data, { text: chosen ? chosen.value : "" });
    }
    if (busy() && !refused && field.value.trim() === "") return undefined;
    const typed = typedIn(of);
    const data = [...new FormData(of, submitter)];
    sessionStorage.removeItem(`uranograph:${of.dataset.draft}`);
    touched.clear();
    if (back) {
      queue.push(typed);
      field.value = "";
      fill(of, back);
      back = null;
      field.setSelectionRange(field.value.length, field.value.length);
      return show();
    }
    field.value = "";
    if (sending || (queue.length && !refused)) {
      queue.push(typed);
      return show();
    }
    refused = false;
    return post(of.action, data, typed);
  };

  document.addEventListener(
    "submit",
    (event) => {
      if (event.target.matches(FORM)) {
        event.preventDefault();
        event.stopImmediatePropagation();
        take(event.target, event.submitter);
      } else if (busy() && event.target.closest("#bench")) {
        event.preventDefault();
        event.stopImmediatePropagation();
        notice(WAIT);
      }
    },
    true
  );

  document.addEventListener("focusin", (event) => {
    if (event.target.closest && event.target.closest(FORM)) entered = event.target.id;
  });

  document.addEventListener("input", (event) => {
    if (event.target.closest && event.target.closest(FORM) && event.target.name) touched.add(event.target.name);
  });

  document.addEventListener(
    "keydown",
    (event) => {
      if (!busy() || reading() || !/^[0-9]$/.test(event.key) || !form()) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      notice(WAIT);
    },
    true
  );

  document.addEventListener(
    "click",
    (event) => {
      const link = event.target.closest && event.target.closest("a[href]");
      if (!link || !busy() || event.ctrlKey || event.metaKey || link.target) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      onward = { key: link.dataset.key, href: link.href };
    },
    true
  );

  // A page drawn again in the middle goes on where it was: a form sent twice is written once.
  document.addEventListener("DOMContentLoaded", () => {
    const kept = sessionStorage.getItem(PLACE);
    if (!kept || !form()) return;
    const was = JSON.parse(kept);
    queue = was.queue;
    if (was.sending) post(was.sending.action, was.sending.data, was.sending.typed);
    else next();
  });
})();
