// The number pad on screen: types into the waiting reading as a keyboard would, so that gloves need no keyboard.
(() => {
  const kept = "uranograph-pad";
  const coarse = matchMedia("(pointer: coarse)");
  let last = null;

  const wanted = () => (localStorage.getItem(kept) ?? (coarse.matches ? "on" : "off")) === "on";
  const field = () => {
    if (last?.isConnected && last.closest(".reading-form")) return last;
    return document.querySelector("[data-reading]");
  };

  // A keyboard that slides up over the pad would cover what the pad is for.
  const settle = () => {
    const on = wanted();
    document.documentElement.toggleAttribute("data-pad", on);
    document.querySelector("[data-pad-switch]")?.setAttribute("aria-pressed", String(on));
    for (const each of document.querySelectorAll(".reading-form input[inputmode]")) {
      each.dataset.keyboard ??= each.inputMode;
      each.inputMode = on ? "none" : each.dataset.keyboard;
    }
  };

  const put = (text) => {
    const into = field();
    if (!into || into.readOnly) return;
    into.focus({ preventScroll: true });
    const [start, end] = [into.selectionStart ?? into.value.length, into.selectionEnd ?? into.value.length];
    if (text === "back") into.setRangeText("", start === end ? Math.max(0, start - 1) : start, end, "end");
    else {
      // A fraction after whole degrees stands apart from them.
      const apart = text.includes("/") && /[0-9]$/.test(into.value.slice(0, start)) ? " " : "";
      if (into.value.length + apart.length + text.length <= into.maxLength || into.maxLength < 0) into.setRangeText(apart + text, start, end, "end");
    }
    into.dispatchEvent(new Event("input", { bubbles: true }));
  };

  document.addEventListener("focusin", (event) => {
    if (event.target.matches?.(".reading-form input[inputmode]")) last = event.target;
  });
  document.addEventListener("pointerdown", (event) => {
    if (event.target.closest("[data-put]")) event.preventDefault();
  });
  document.addEventListener("click", (event) => {
    const key = event.target.closest("[data-put]");
    if (key) put(key.dataset.put);
    if (event.target.closest("[data-pad-record]")) document.querySelector(".reading-form button[type=submit]")?.click();
    if (event.target.closest("[data-pad-switch]")) {
      localStorage.setItem(kept, wanted() ? "off" : "on");
      settle();
    }
  });
  for (const moment of ["DOMContentLoaded", "htmx:afterSwap"]) document.addEventListener(moment, settle);
  coarse.addEventListener("change", settle);
})();
