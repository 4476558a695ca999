// The name of this tab, which its kept texts and its presence go by.
export function tabName() {
  let name = sessionStorage.getItem("mobbet:tab");
  if (!name) {
    name = crypto.randomUUID();
    sessionStorage.setItem("mobbet:tab", name);
  }
  return name;
}
