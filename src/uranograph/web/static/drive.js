// The drive sheet shows only the fields of the kind of adjuster chosen.
document.addEventListener("change", (event) => {
  const kind = event.target.closest && event.target.closest("select[data-kind-of]");
  if (!kind) return;
  for (const part of document.querySelectorAll("[data-part]")) {
    const [number, ...kinds] = part.dataset.part.split(" ");
    if (number === kind.dataset.kindOf) part.hidden = !kinds.includes(kind.value);
  }
});
// Any other form does the same field by field.
document.addEventListener("change", (event) => {
  for (const part of document.querySelectorAll(`[data-asked-for="${CSS.escape(event.target.id || " ")}"]`)) {
    part.hidden = !part.dataset.values.split(" ").includes(event.target.value);
  }
});
// Of rows that are alike one more is shown than are filled.
document.addEventListener("input", (event) => {
  for (const row of document.querySelectorAll(`details[data-after="${CSS.escape(event.target.id || " ")}"]`)) {
    if (event.target.value) row.hidden = false;
  }
});
