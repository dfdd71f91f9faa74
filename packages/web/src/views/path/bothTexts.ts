/**
 * What was typed, where nobody else changed the text meanwhile; else theirs with what was typed below: neither is lost.
 * @param typed the text, and what it was made from
 */
export function bothTexts(typed: { text: string; from: string }, theirs: string): string {
  if (theirs === typed.from || theirs === typed.text) return typed.text;
  return typed.text === typed.from ? theirs : `${theirs}\n\n${typed.text}`;
}
