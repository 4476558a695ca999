// How attributes go through the clipboard: each as `data-<name>` in JSON, so a copied block keeps them all.
export function kept(name, fallback, look = () => ({})) {
  return {
    default: fallback,
    parseHTML: (element) => {
      const given = element.getAttribute(`data-${name}`);
      if (given === null) return fallback;
      try {
        return JSON.parse(given);
      } catch {
        return fallback;
      }
    },
    renderHTML: (attributes) => ({ [`data-${name}`]: JSON.stringify(attributes[name]), ...look(attributes[name]) }),
  };
}

// An address that came with a copied block counts only when it may be kept.
export function keptAddress(name, isAllowed) {
  const attribute = kept(name, "");
  return {
    ...attribute,
    parseHTML: (element) => {
      const address = attribute.parseHTML(element);
      return typeof address === "string" && isAllowed(address) ? address : "";
    },
  };
}

// A class that is the name of a value, where the value is not the usual one.
export function classOf(prefix, usual) {
  return (value) => (value === usual ? {} : { class: `${prefix}-${value}` });
}
