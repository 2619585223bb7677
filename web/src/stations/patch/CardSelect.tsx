import { MenuItem, Select } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";

/** The network card an output leaves by. One that is gone stays listed, and says so. */
export function CardSelect({ value, onChange }: { value: string; onChange: (card: string) => void }) {
  const { data } = useQuery({
    queryKey: ["cards"],
    queryFn: () => answer(client.GET("/api/cards")),
    refetchInterval: 5000,
  });
  const cards = data ?? [];
  const known = cards.some((card) => card.address === value);
  return (
    <Select
      variant="standard"
      value={value}
      displayEmpty
      inputProps={{ "aria-label": "Network card" }}
      onChange={(event) => onChange(event.target.value)}
      sx={{ minWidth: 0, fontSize: 13 }}
    >
      {!value && <MenuItem value="">card chosen by the system</MenuItem>}
      {value && !known && <MenuItem value={value}>card {value} is gone</MenuItem>}
      {cards.map((card) => (
        <MenuItem key={card.address} value={card.address}>
          {card.name} {card.address}
          {card.up ? "" : ", down"}
        </MenuItem>
      ))}
    </Select>
  );
}
