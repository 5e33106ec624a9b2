// The form of gears grows by a row at a time, and every gear that has a name can be chosen in the rows of the others.
(() => {
  const MOST = 20;
  const rows = () => [...document.querySelectorAll("[data-gear-row]")];
  const number = (row) => Number(row.dataset.gearRow);
  const name = (row) => row.querySelector(`#g${number(row)}_name`).value.trim();

  const offer = () => {
    const named = rows().filter(name);
    for (const select of document.querySelectorAll("[data-gear-choice]")) {
      const row = select.closest("[data-gear-row]");
      const chosen = select.value;
      const others = named.filter((other) => other !== row);
      const options = others.map((other) => new Option(`${number(other)} ${name(other)}`, number(other)));
      select.replaceChildren(select.options[0], ...options);
      select.value = others.some((other) => String(number(other)) === chosen) ? chosen : "";
    }
  };

  const add = () => {
    const last = rows().at(-1);
    const n = number(last) + 1;
    if (n > MOST) return null;
    const row = last.cloneNode(true);
    row.dataset.gearRow = n;
    row.querySelector("legend").textContent = `Gear ${n}`;
    row.querySelector(".gear-number").textContent = n;
    for (const part of row.querySelectorAll("[id], [name], [for], [aria-describedby]")) {
      for (const mark of ["id", "name", "for", "aria-describedby"]) {
        const text = part.getAttribute(mark);
        if (text) part.setAttribute(mark, text.replaceAll(`g${n - 1}_`, `g${n}_`));
      }
    }
    for (const field of row.querySelectorAll("input, select")) {
      if (field.type === "checkbox") field.checked = false;
      else field.value = field.name.endsWith("_role") ? "idler" : field.name.endsWith("_how") ? "mesh" : "";
    }
    for (const error of row.querySelectorAll(".field-error")) error.textContent = "";
    last.after(row);
    offer();
    return row;
  };

  document.addEventListener("click", (event) => {
    if (event.target.closest && event.target.closest("[data-add-gear]")) add()?.querySelector("input").focus();
  });
  document.addEventListener("draft:coming", ({ detail }) => {
    if (!rows().length) return;
    for (const [field, text] of Object.entries(detail)) {
      const found = /^g(\d+)_name$/.exec(field);
      if (!found || !text) continue;
      while (number(rows().at(-1)) < Number(found[1]) && add());
      document.getElementById(field).value = text;
    }
    offer();
  });
  document.addEventListener("input", (event) => {
    if (event.target.matches && event.target.matches("[data-gear-row] input[name$=_name]")) offer();
  });
})();
