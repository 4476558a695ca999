// The one way between the sheet and the docket: each offers what the other may ask of it.
const parts = { sheet: {}, docket: {} };

export function offer(name, functions) {
  parts[name] = functions;
}

// flush() saves the text, and answers whether it is saved; hold() says whether marks hold the post back; put() shows them.
export const sheet = () => parts.sheet;

// reread() reads the docket anew; place(reason) does its main action in spite of marks; lead(at) leads the post with a block.
export const docket = () => parts.docket;
