// Which addresses a link may have.
const SCHEMES = ["http:", "https:", "mailto:", "tel:"];

// The same judgement as core/document/links.py, so that what the surface lets in can be saved.
export function isAllowedAddress(address) {
  const bare = (address || "").replace(/[\u0000-\u0020\u007f-\u009f\u200b-\u200f\u2028\u2029\ufeff]/g, "");
  if (!bare || bare.length > 2048) return false;
  const scheme = /^([a-z][a-z0-9+.-]*):/i.exec(bare);
  return !scheme || SCHEMES.includes(scheme[0].toLowerCase()) || /^post:[1-9]\d{0,11}(#[\w-]*)?$/.test(bare);
}

const MAIL = /^[^\s@/:]+@[^\s@/]+\.[^\s@/]+$/;
const BARE = /^[\w-]+(\.[\w-]+)+([/?#].*)?$/;

// What was typed as an address; '' when it is none.
export function addressOf(typed) {
  let href = typed.trim();
  if (MAIL.test(href)) href = `mailto:${href}`;
  else if (BARE.test(href)) href = `https://${href}`;
  return /^([a-z][a-z0-9+.-]*:|[/#])/i.test(href) && isAllowedAddress(href) ? href : "";
}
