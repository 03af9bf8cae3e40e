/** What is told to the server one after the other: held in this browser until the server has it, asked again. */
import { useCallback, useEffect, useRef, useState } from "react";
import { Refused } from "../api/client";

const FIRST_PAUSE_MS = 800;
const LONGEST_PAUSE_MS = 20_000;

interface Way<T> {
  key: string; // where it is held
  ready: () => Promise<unknown>; // what must have come before anything is sent
  send: (one: T) => Promise<unknown>;
  sent: (one: T, reply: unknown) => void; // also of what was refused: it is not sent again
  matters?: (one: T) => boolean; // whether a refusal is told
}

function heldBack<T>(key: string): T[] {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "[]") as T[];
  } catch {
    return [];
  }
}

export function useSendQueue<T>(way: Way<T>) {
  const { key } = way;
  const [waiting, setWaiting] = useState<T[]>(() => heldBack(key));
  const [problem, setProblem] = useState<string | null>(null);
  const queue = useRef(waiting);
  const going = useRef(false);
  const pause = useRef(FIRST_PAUSE_MS);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const latest = useRef(way);
  latest.current = way;

  const hold = useCallback(
    (next: T[]) => {
      queue.current = next;
      if (next.length > 0) localStorage.setItem(key, JSON.stringify(next));
      else localStorage.removeItem(key);
      setWaiting(next);
    },
    [key],
  );

  const run = useCallback(async () => {
    if (going.current) return;
    going.current = true;
    const later = () => {
      going.current = false;
      timer.current = setTimeout(() => void run(), pause.current);
      pause.current = Math.min(pause.current + pause.current, LONGEST_PAUSE_MS);
    };
    const { ready, send, sent, matters } = latest.current;
    try {
      await ready();
    } catch {
      return later();
    }
    while (queue.current[0]) {
      const one = queue.current[0];
      let reply: unknown;
      try {
        reply = await send(one);
        setProblem(null);
      } catch (error) {
        if (!(error instanceof Refused && error.status < 500)) return later();
        if (matters?.(one) ?? true) setProblem(error.message);
      }
      pause.current = FIRST_PAUSE_MS;
      sent(one, reply);
      hold(queue.current.slice(1));
    }
    going.current = false;
  }, [hold]);

  useEffect(() => {
    if (queue.current.length > 0) void run();
    return () => {
      if (timer.current) clearTimeout(timer.current);
    };
  }, [run]);

  const tell = useCallback(
    (one: T) => {
      hold([...queue.current, one]);
      void run();
    },
    [hold, run],
  );
  return { waiting, problem, tell };
}
