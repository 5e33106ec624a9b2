// Focus goes where the hand would go next: to what is wrong, to the first empty field, or to the button that goes on.
(() => {
  const settle = () => {
    if (matchMedia("(pointer: coarse)").matches) return;
    if (document.querySelector("[autofocus]")) return;
    const at = document.activeElement;
    if (at && at !== document.body) return;
    const form = document.querySelector(".panel .bench-form");
    if (!form || form.getBoundingClientRect().width === 0) return;
    const fields = [...form.querySelectorAll("input, select, textarea")].filter((each) => each.type !== "hidden" && each.offsetParent);
    const wrong = fields.find((each) => each.getAttribute("aria-invalid") === "true");
    const empty = fields.find((each) => each.matches("input:not([type]), input[type=text], textarea") && !each.value);
    const go = form.querySelector("button[type=submit]");
    // A form that was filled in before is looked at, not begun: Enter goes on from it.
    const filled = fields.some((each) => each.matches("input:not([type]), input[type=text], textarea") && each.value);
    (wrong ?? (filled ? go : (empty ?? go)))?.focus({ preventScroll: true });
  };
  document.addEventListener("DOMContentLoaded", () => queueMicrotask(settle));
  document.addEventListener("htmx:afterSwap", () => queueMicrotask(settle));
  // A count that stands there already is typed over, not added to.
  document.addEventListener("focusin", (event) => {
    const field = event.target;
    if (field.id === "second" && field.value && field.value === field.defaultValue) setTimeout(() => field.select());
  });
  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && !document.querySelector("dialog[open]")) document.activeElement?.blur();
  });
})();
