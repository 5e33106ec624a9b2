// A key or foot pedal of one's own that records, kept in this browser.
(() => {
  const kept = "uranograph-pedal";
  const reserved = /^([0-9.,/ \-+a-z[\]?]|Enter|Tab|Escape|Backspace|Delete|Shift|Control|Alt|Meta|Arrow.*|Home|End)$/i;
  let listening = false;

  const show = () => {
    const key = localStorage.getItem(kept);
    for (const each of document.querySelectorAll("[data-pedal]")) {
      each.textContent = listening ? "Press it now" : key ? `${key} records; change` : "Choose a key or pedal";
    }
  };

  document.addEventListener("click", (event) => {
    if (!event.target.closest("[data-pedal]")) return;
    listening = !listening;
    show();
  });
  document.addEventListener(
    "keydown",
    (event) => {
      if (listening) {
        event.preventDefault();
        event.stopImmediatePropagation();
        const note = document.getElementById("pedal-note");
        if (event.key === "Escape") localStorage.removeItem(kept);
        else if (reserved.test(event.key)) {
          note.textContent = `“${event.key}” types or moves: choose another, such as F8 or PageDown. Escape for none.`;
          return;
        } else localStorage.setItem(kept, event.key);
        note.textContent = "";
        listening = false;
        show();
        return;
      }
      if (event.repeat || event.key !== localStorage.getItem(kept) || document.querySelector("dialog[open]")) return;
      const record = document.querySelector(".reading-form button[type=submit]");
      if (!record) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      record.click();
    },
    true,
  );
  document.addEventListener("DOMContentLoaded", show);
})();
