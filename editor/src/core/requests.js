// Sends JSON, and says in words what went wrong.
export async function ask(address, body) {
  const response = await fetch(address, {
    method: "POST",
    headers: { "content-type": "application/json", accept: "application/json" },
    body: JSON.stringify(body),
  });
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw new Error(answer.message || "It could not be done; try again.");
  return answer;
}

export const awayOr = (error) => (error instanceof TypeError ? "The network is away; try again when it is back." : error.message);
