import { describe, expect, it } from "vitest";
import { WORDS, wordIn } from "./words";

describe("what a label is about", () => {
  it("is the longest word in it that is known", () => {
    expect(wordIn("Why is it dark?")?.word).toBe("why is it dark");
    expect(wordIn("Patch doctor")?.word).toBe("patch doctor");
    expect(wordIn("5 on, Outputs")?.word).toBe("outputs");
  });
  it("is no part of another word", () => expect(wordIn("Goat")).toBe(null));
  it("is nothing of a whole paragraph", () => expect(wordIn("go ".repeat(60))).toBe(null));
  it("says a sentence each, in lower case keys", () => {
    for (const [word, says] of WORDS) {
      expect(word).toBe(word.toLowerCase());
      expect(says).toMatch(/^[A-Z405].*[.]$/);
      expect(says.length).toBeLessThan(180);
    }
  });
});
