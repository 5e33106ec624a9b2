// A large picture is made smaller before it is sent.
(() => {
  const LARGEST = 1600;
  const SMALL_ENOUGH = 1200000;

  const smaller = async (file) => {
    const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, LARGEST / Math.max(bitmap.width, bitmap.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(bitmap.width * scale));
    canvas.height = Math.max(1, Math.round(bitmap.height * scale));
    canvas.getContext("2d").drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.85));
    return new File([blob], "picture.jpg", { type: "image/jpeg" });
  };

  document.addEventListener("change", async (event) => {
    const field = event.target;
    if (!field.matches || !field.matches("[data-picture]") || !field.files.length) return;
    if (field.files[0].size <= SMALL_ENOUGH) return;
    const button = field.form.querySelector("button");
    button.disabled = true;
    try {
      const list = new DataTransfer();
      list.items.add(await smaller(field.files[0]));
      field.files = list.files;
    } catch {
      // What the browser cannot draw is sent as it is, and the server says what is wrong with it.
    } finally {
      button.disabled = false;
    }
  });
})();
