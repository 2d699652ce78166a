for (const b of document.querySelectorAll("details button")) b.onclick = async () => {
  const code = b.parentElement.querySelector("pre");
  try { await navigator.clipboard.writeText(code.textContent); b.textContent = "Copied"; }
  catch { getSelection().selectAllChildren(code); b.textContent = "Selected"; }
};
