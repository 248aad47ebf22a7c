/** Names in a row: all of up to eight, of more the first seven and how many there are besides. */
export const shortened = (ids: readonly string[]): string =>
  ids.length > 8 ? `${ids.slice(0, 7).join(", ")} and ${ids.length - 7} more` : ids.join(", ");
