// Places on the sheet as the server names them: the path of a block, and offsets in it.

// Where the content of the block at a path begins, and the block; null where there is none now.
export function blockAt(doc, path) {
  let node = doc;
  let place = -1;
  for (const index of path) {
    if (index >= node.childCount) return null;
    place += 1;
    for (let before = 0; before < index; before += 1) place += node.child(before).nodeSize;
    node = node.child(index);
  }
  return { node, place, inside: place + 1 };
}

// The same of a position: the path of the block it stands in, and the offset in that.
export function placeOf($pos) {
  const path = [];
  for (let depth = 0; depth < $pos.depth; depth += 1) path.push($pos.index(depth));
  return { path, at: $pos.parentOffset };
}
