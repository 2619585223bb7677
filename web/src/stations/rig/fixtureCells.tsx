import { answer, client, type FixtureView } from "../../api/client";
import { useEdit } from "../../api/show";
import { Typed } from "../../components/Typed";

interface FixturePatch {
  number?: number;
  name?: string;
  address?: string;
  lies?: string;
}

/** Stores something of a fixture; resolves to what is wrong with it, "" where nothing is. */
export function usePatch(fixture: FixtureView): (body: FixturePatch) => Promise<string> {
  const edit = useEdit();
  return async (body) => {
    let wrong = "";
    await edit(
      () =>
        answer(
          client.PATCH("/api/fixtures/{fixture_id}", {
            params: { path: { fixture_id: fixture.id } },
            body: { ...body, rev: fixture.rev },
          }),
        ),
      (fault) => {
        wrong = `${fault.what} ${fault.repair}`;
      },
    );
    return wrong;
  };
}

export function NumberField({ fixture }: { fixture: FixtureView }) {
  const patch = usePatch(fixture);
  return (
    <Typed
      quiet
      numeric
      label={`Number of ${fixture.name}`}
      value={String(fixture.number)}
      onCommit={(text) =>
        /^\d+$/.test(text.trim()) ? patch({ number: Number(text) }) : "A number is 1 to 999999."
      }
    />
  );
}

export function NameField({ fixture }: { fixture: FixtureView }) {
  const patch = usePatch(fixture);
  return (
    <Typed
      quiet
      label={`Name of ${fixture.number}`}
      value={fixture.name}
      onCommit={(name) => patch({ name })}
    />
  );
}

export function AddressField({ fixture }: { fixture: FixtureView }) {
  const patch = usePatch(fixture);
  return (
    <Typed
      quiet
      numeric
      label={`Address of ${fixture.number}`}
      value={fixture.address}
      placeholder="no address"
      onCommit={(address) => patch({ address })}
    />
  );
}
