import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type DeviceOut, dataOf, type LogPicture, Refused } from "../../api/client";
import { useLogbook } from "../../kit/logbook";
import { newId } from "../../kit/records";
import { INPUT, Problem } from "../../kit/ui/fields";
import { LinkButton } from "../../kit/ui/LinkButton";
import { Told as Words } from "../../kit/ui/Told";
import { counted } from "../../kit/units";
import { useDevices } from "./useDevices";

const FORMS = [
  ["json_lines", "JSON lines, TCP"],
  ["nmea_tcp", "NMEA 0183, TCP"],
  ["nmea_udp", "NMEA 0183, UDP"],
  ["deltas", "JSON deltas, WebSocket"],
] as const;
const STATES: Record<string, string> = {
  off: "off",
  connecting: "connecting …",
  reading: "reading",
  silent: "silent",
  away: "not there; tried again by itself",
};

/** Devices that send readings: what each says now, and how it goes. */
export function DevicesFold({ inputs, kept }: Pick<LogPicture, "inputs" | "kept">) {
  const { boatId } = useLogbook();
  const queries = useQueryClient();
  const path = { params: { path: { boat_id: boatId } } };
  const devices = useDevices();
  const [wrong, setWrong] = useState("");
  const again = () => void queries.invalidateQueries({ queryKey: ["devices", boatId] });
  async function put(device: Omit<DeviceOut, Told>) {
    setWrong("");
    try {
      await dataOf(client.PUT("/api/boats/{boat_id}/devices", { ...path, body: device }));
    } catch (error) {
      const first = error instanceof Refused ? error.problems[0] : undefined;
      setWrong(first ? `${first.message} Accepted: ${first.accepted}.` : "The server did not answer.");
    }
    again();
  }
  async function remove(id: string) {
    await client.DELETE("/api/boats/{boat_id}/devices/{key}", {
      params: { path: { boat_id: boatId, key: id } },
    });
    again();
  }
  return (
    <div className="grid gap-2 text-[13.5px]">
      {devices?.map((device) => (
        <div key={device.id} data-device={device.name}>
          <div className="flex items-baseline justify-between gap-2">
            <b className="truncate">{device.name}</b>
            <span className={device.state === "reading" ? "" : "text-muted"}>{STATES[device.state]}</span>
          </div>
          <p className="m-0 text-[13px] text-muted">
            {device.host}:{device.port} · {counted(device.kept, "reading")}
            {device.wrong > 0 && ` · ${counted(device.wrong, "line")} not understood`}
            {device.let_go > 0 && ` · ${device.let_go} let go`}
            {device.told && device.state !== "reading" && ` · ${device.told}`}
          </p>
          <div className="flex gap-3">
            <LinkButton onClick={() => void put({ ...device, is_on: !device.is_on })}>
              {device.is_on ? "switch off" : "switch on"}
            </LinkButton>
            <LinkButton onClick={() => void remove(device.id)} aria-label={`Forget ${device.name}`}>
              forget
            </LinkButton>
          </div>
        </div>
      ))}
      <NewDevice inputs={inputs} onAdd={(device) => void put(device)} />
      {wrong && <Problem id="device" text={wrong} />}
      <p className="m-0 text-[12.5px] text-muted">
        <Words sentence={kept} />
      </p>
      <p className="m-0 text-[12.5px] text-muted">
        Without any: <code>parhelion devices BOAT.json</code> plays a boat on this machine, ports 10210 to
        10213; <code>--replay FILE.csv</code> a day that was read.
      </p>
    </div>
  );
}

type Told = "state" | "lines" | "wrong" | "let_go" | "kept" | "last_at" | "told" | "values" | "heard";

function NewDevice(props: { inputs: LogPicture["inputs"]; onAdd: (device: Omit<DeviceOut, Told>) => void }) {
  const { inputs, onAdd } = props;
  const [name, setName] = useState("");
  const [form, setForm] = useState<DeviceOut["form"]>("json_lines");
  const [address, setAddress] = useState("127.0.0.1:10210");
  const [of, setOf] = useState("");
  const [problem, setProblem] = useState("");
  function add() {
    const at = address.trim().lastIndexOf(":");
    const port = Number(address.slice(at + 1));
    if (!name.trim()) return setProblem("A name, such as shunt.");
    if (at < 1 || !Number.isInteger(port) || port < 1 || port > 65_535)
      return setProblem("An address such as 127.0.0.1:10210.");
    setProblem("");
    setName("");
    onAdd({
      id: newId(),
      name: name.trim(),
      form,
      host: address.slice(0, at).trim(),
      port,
      of: of || null,
      is_on: true,
    });
  }
  return (
    <form
      className="grid gap-1"
      aria-label="A new device"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <label className="flex items-center justify-between gap-2">
        name
        <input
          className={`${INPUT} w-[150px] text-left!`}
          maxLength={40}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex items-center justify-between gap-2">
        speaks
        <select
          className={`${INPUT} w-[150px]`}
          value={form}
          onChange={(event) => setForm(event.target.value as DeviceOut["form"])}
        >
          {FORMS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center justify-between gap-2">
        address
        <input
          className={`${INPUT} w-[150px] text-left!`}
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      </label>
      <label className="flex items-center justify-between gap-2">
        panels of
        <select className={`${INPUT} w-[150px]`} value={of} onChange={(event) => setOf(event.target.value)}>
          <option value="">as it says, or all</option>
          {inputs.map((box) => (
            <option key={box.key} value={box.key}>
              {box.name}
            </option>
          ))}
        </select>
      </label>
      {problem && <Problem id="new-device" text={problem} />}
      <LinkButton type="submit" className="justify-self-start">
        add a device
      </LinkButton>
    </form>
  );
}
