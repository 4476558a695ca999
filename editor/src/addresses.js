// Which addresses a link may have.
const SCHEMES = ["http:", "https:", "mailto:", "tel:"];

// The same judgement as core/document/links.py, so that what the surface lets in can be saved.
export function isAllowedAddress(address) {
  const bare = (address || "").replace(/[\u0000-\u0020\u007f-\u009f\u200b-\u200f\u2028\u2029\ufeff]/g, "");
  if (!bare || bare.length > 2048) return false;
  const scheme = /^([a-z][a-z0-9+.-]*):/i.exec(bare);
  return !scheme || SCHEMES.includes(scheme[0].toLowerCase()) || /^post:[1-9]\d{0,11}(#[\w-]*)?$/.test(bare);
}
