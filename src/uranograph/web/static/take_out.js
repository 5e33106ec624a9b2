// A figure as a picture: the drawing that can be taken out, painted at twice its size.
document.addEventListener("click", async (event) => {
  const link = event.target.closest && event.target.closest("a[data-png]");
  if (!link) return;
  event.preventDefault();
  const note = document.getElementById("notice");
  try {
    const drawn = await (await fetch(link.href)).text();
    const picture = new Image();
    picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(drawn)}`;
    await picture.decode();
    const [, width, height] = drawn.match(/viewBox="0 0 ([\d.]+) ([\d.]+)"/);
    const canvas = document.createElement("canvas");
    canvas.width = 2 * width;
    canvas.height = 2 * height;
    canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
    const out = document.createElement("a");
    out.href = canvas.toDataURL("image/png");
    out.download = link.dataset.png;
    out.click();
  } catch {
    note.textContent = "The picture could not be made just now. The SVG beside it holds the same figure.";
    note.hidden = false;
  }
});
