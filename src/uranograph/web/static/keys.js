// The keyboard: each key presses the visible button or link that carries it in data-key.
(() => {
  const inText = (target) =>
    target instanceof HTMLElement && target.matches("input:not([type=radio]):not([type=range]):not([type=checkbox]), textarea, select");

  const press = (key) => {
    const target = document.querySelector(`[data-key="${CSS.escape(key)}"]`);
    if (!target) return false;
    target.click();
    if (target.matches("summary")) target.parentElement.querySelector("select, input:not([type=hidden])")?.focus();
    return true;
  };

  // Enter in a field that has a button of its own presses that one, not the form's.
  document.addEventListener("keydown", (event) => {
    const button = event.key === "Enter" && event.target.dataset?.enter;
    if (!button) return;
    event.preventDefault();
    document.getElementById(button).click();
  });

  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open]")) return;
    const free = inText(event.target) && event.target.hasAttribute("data-free-text");
    if (free) return;
    // A letter within a reading is part of it, right or wrong.
    const within = ["x", "u", "h"].includes(event.key) && inText(event.target) && event.target.value !== "";
    if (["[", "]", "z", "w", "x", "u", "n", "h", "?"].includes(event.key) && !within) {
      if (press(event.key)) event.preventDefault();
      return;
    }
    const answer = document.querySelector(`[data-answer="${CSS.escape(event.key)}"]`);
    const folded = answer?.closest("details:not([open])");
    if (folded && !inText(event.target)) {
      // A question that is folded away is shown first, and answered by the next key.
      folded.open = true;
      return;
    }
    if (answer && !inText(event.target)) {
      answer.focus();
      answer.click();
      return;
    }
    const reading = document.querySelector("[data-reading]");
    if (!reading || inText(event.target)) return;
    // A reading that is folded away is read once again by typing it.
    if (/^[0-9.,ab]$/i.test(event.key)) reading.closest("details")?.setAttribute("open", "");
    if (/^[0-9.,]$/.test(event.key)) {
      reading.focus();
    } else if (/^[ab]$/i.test(event.key)) {
      reading.focus();
      reading.dispatchEvent(new KeyboardEvent("keydown", { key: event.key, bubbles: true, cancelable: true }));
      event.preventDefault();
    }
  });

  document.addEventListener("click", (event) => {
    const pressed = event.target.closest("[data-press]");
    if (pressed) press(pressed.dataset.press);
    const fills = event.target.closest("[data-fill]");
    if (fills) {
      const field = document.getElementById(fills.dataset.fill);
      field.value = fills.dataset.text;
      for (const moment of ["input", "change"]) field.dispatchEvent(new Event(moment, { bubbles: true }));
      field.focus();
    }
    const opener = event.target.closest("[data-open]");
    if (opener) document.getElementById(opener.dataset.open).showModal();
    const print = event.target.closest("[data-print]");
    if (print) (document.getElementById(print.dataset.print)?.contentWindow ?? window).print();
  });
})();
