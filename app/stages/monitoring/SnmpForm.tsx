import { METRICS, SNMP_AUTHS, SNMP_PRIVACIES, SNMP_PROTOCOL_WORDS, WEAK_SNMP, type SnmpModel } from "#core/watch";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, SelectField, TextField } from "../../ui";
import { useWatch } from "./MonitoringContext";

type Objects = SnmpModel["objects"];

/** Objects or columns, what each means, and by how much its number is multiplied. */
function ObjectRows({
  word,
  objects,
  start,
  set,
}: {
  word: "Object" | "Column";
  objects: Objects;
  /** What a new one begins with. */
  start: string;
  set: (next: Objects) => void;
}) {
  const change = (at: number, to: Partial<Objects[number]>) =>
    set(objects.map((one, i) => (i === at ? { ...one, ...to } : one)));
  return (
    <>
      {objects.map((object, at) => (
        <div key={at} className="grid grid-cols-[10rem_1fr_5rem_auto] items-end gap-1">
          <SelectField
            label="Means"
            value={object.metric}
            onChange={({ target }) => change(at, { metric: target.value as Objects[number]["metric"] })}
          >
            {METRICS.slice(0, -1).map(({ key, name, unit }) => (
              <option key={key} value={key}>
                {name} ({unit})
              </option>
            ))}
          </SelectField>
          <TextField label={word} value={object.oid} onChange={({ target }) => change(at, { oid: target.value })} />
          <TextField
            label="Times"
            inputMode="decimal"
            defaultValue={object.scale}
            onBlur={({ target }) => change(at, { scale: Number(target.value) || 1 })}
          />
          <Button onClick={() => set(objects.filter((_, i) => i !== at))}>Remove</Button>
        </div>
      ))}
      <Button onClick={() => set([...objects, { metric: "level0Dbm", oid: start, scale: 1 }])}>
        {word === "Object" ? "Name an object" : "Name a column"}
      </Button>
    </>
  );
}

/** How devices are asked by SNMP, and which of each model's objects mean what. */
export function SnmpForm() {
  const { kept } = useDesk();
  const { kept: watch, ask } = useWatch();
  const [snmp, setSnmp] = useState(watch!.settings.snmp);
  const [secrets, setSecrets] = useState({ community: "", password: "", key: "" });
  const used = new Set([...kept.radios.values()].map(({ radioModelId }) => radioModelId));
  const models = [...kept.radioModels.values()].filter(({ id }) => used.has(id));
  const setModel = (radioModelId: string, change: Partial<SnmpModel>) => {
    const before: SnmpModel = snmp.models.find((one) => one.radioModelId === radioModelId) ?? {
      radioModelId,
      airInterface: 0,
      objects: [],
      clients: null,
    };
    const others = snmp.models.filter((one) => one.radioModelId !== radioModelId);
    setSnmp({ ...snmp, models: [...others, { ...before, ...change }] });
  };
  const secretField = (name: keyof typeof secrets, label: string) => (
    <TextField
      label={label}
      type="password"
      autoComplete="off"
      placeholder="as it is kept"
      value={secrets[name]}
      onChange={({ target }) => setSecrets({ ...secrets, [name]: target.value })}
    />
  );
  const protocolField = <K extends "auth" | "privacy">(key: K, label: string, all: readonly (typeof snmp)[K][]) => (
    <SelectField
      label={label}
      value={snmp[key]}
      onChange={({ target }) => setSnmp({ ...snmp, [key]: target.value as (typeof snmp)[K] })}
    >
      {all.map((one) => (
        <option key={one} value={one}>
          {SNMP_PROTOCOL_WORDS[one]}
          {WEAK_SNMP.has(one) ? ", weak" : ""}
        </option>
      ))}
    </SelectField>
  );
  return (
    <section className="max-w-2xl space-y-2">
      <h2 className="font-semibold">Asking devices by SNMP</h2>
      <p className="text-xs text-quiet">
        Every radio with an address is asked each minute: time since its start, octets of the interface toward the air,
        the objects named here, and an access point’s table of its clients. Community, password and key are kept sealed,
        and are in no export.
      </p>
      <form
        className="space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          const given = Object.fromEntries(Object.entries(secrets).filter(([, text]) => text !== ""));
          void ask({ intent: "snmp", snmp, ...given }).then((answer) => {
            if (answer?.ok) setSecrets({ community: "", password: "", key: "" });
          });
        }}
      >
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={snmp.isOn}
            onChange={({ target }) => setSnmp({ ...snmp, isOn: target.checked })}
          />
          Ask them each minute
        </label>
        <div className="grid grid-cols-2 gap-2 md:grid-cols-4">
          <SelectField
            label="Version"
            value={snmp.version}
            onChange={({ target }) => setSnmp({ ...snmp, version: target.value as "2c" | "3" })}
          >
            <option value="3">3, signed and encrypted</option>
            <option value="2c">2c, in the open</option>
          </SelectField>
          <TextField
            label="Port"
            inputMode="numeric"
            value={snmp.port}
            onChange={({ target }) => setSnmp({ ...snmp, port: Number(target.value) || 161 })}
          />
          {snmp.version === "2c" && secretField("community", "Community")}
          {snmp.version === "3" && (
            <>
              <TextField
                label="User"
                value={snmp.user}
                onChange={({ target }) => setSnmp({ ...snmp, user: target.value })}
              />
              {protocolField("auth", "Authentication", SNMP_AUTHS)}
              {secretField("password", "Authentication password")}
              {protocolField("privacy", "Encryption", SNMP_PRIVACIES)}
              {secretField("key", "Encryption password")}
            </>
          )}
        </div>
        {models.map(({ id, maker, model }) => {
          const own = snmp.models.find(({ radioModelId }) => radioModelId === id);
          const objects = own?.objects ?? [];
          const clients = own?.clients ?? null;
          return (
            <details key={id} className="rounded border border-rule p-2">
              <summary>
                {maker} {model}: {objects.length === 0 ? "no objects named" : `${objects.length} objects`}
                {clients && `, and a table of its clients`}
              </summary>
              <div className="mt-2 space-y-1">
                <TextField
                  label="Interface toward the air, by its index; 0 for none"
                  inputMode="numeric"
                  value={own?.airInterface ?? 0}
                  onChange={({ target }) => setModel(id, { airInterface: Number(target.value) || 0 })}
                />
                <ObjectRows
                  word="Object"
                  objects={objects}
                  start="1.3.6.1.4.1."
                  set={(next) => setModel(id, { objects: next })}
                />
                {clients ? (
                  <fieldset className="space-y-1 rounded border border-rule p-2">
                    <legend className="px-1 text-xs">Its table of clients, one row each</legend>
                    <TextField
                      label="Column with a client’s address, or the name of its radio here"
                      value={clients.whoColumn}
                      onChange={({ target }) => setModel(id, { clients: { ...clients, whoColumn: target.value } })}
                    />
                    <ObjectRows
                      word="Column"
                      objects={clients.objects}
                      start={clients.whoColumn}
                      set={(next) => setModel(id, { clients: { ...clients, objects: next } })}
                    />
                    <Button className="ml-1" onClick={() => setModel(id, { clients: null })}>
                      Read no table
                    </Button>
                  </fieldset>
                ) : (
                  <Button
                    className="ml-1"
                    onClick={() => setModel(id, { clients: { whoColumn: "1.3.6.1.4.1.", objects: [] } })}
                  >
                    Read a table of its clients
                  </Button>
                )}
              </div>
            </details>
          );
        })}
        <Button type="submit" look="primary">
          Keep how they are asked
        </Button>
      </form>
    </section>
  );
}
