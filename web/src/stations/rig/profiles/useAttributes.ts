import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../../api/client";

/** The attributes a channel can have, and the word for one. */
export function useAttributes(): { all: Schemas["AttributeView"][]; wordOf: (name: string) => string } {
  const { data: all = [] } = useQuery({
    queryKey: ["attributes"],
    queryFn: async () => (await answer(client.GET("/api/profiles/attributes"))) as Schemas["AttributeView"][],
  });
  const words = new Map(all.map((one) => [one.name, one.word]));
  const wordOf = (name: string): string => {
    const known = words.get(name);
    if (known) return known;
    const number = /\d+/.exec(name)?.[0];
    const base = number ? words.get(name.replace(/\d+/, "1")) : undefined;
    return base ? `${base} ${number}` : name;
  };
  return { all, wordOf };
}
