// A quotation, with who said it and where.
import { Blockquote } from "@tiptap/extension-blockquote";
import { isAllowedAddress } from "../core/addresses.js";
import { kept, keptAddress } from "../core/attributes.js";
import { address, words, wrapped } from "./parts.js";

export const quote = {
  nodes: [Blockquote.extend({ name: "quote", addAttributes: () => ({ source: kept("source", "", (source) => (source ? { "data-said": source } : {})), address: keptAddress("address", isAllowedAddress) }) })],
  sentence: {
    quote: ["Said by", words("source", "Source of the quote", "nobody named"), "found at", address("address", "Address of the source", "no address")],
  },
  entry: { words: "Quote", group: "read", block: wrapped("quote"), more: "citation said" },
};
