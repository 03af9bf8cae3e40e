import { defineConfig, mergeConfig } from "vitest/config";
import own from "./vite.config";

/** Files of one project share what they import: reading it in anew took longer than the tests themselves. */
export default mergeConfig(
  own,
  defineConfig({
    test: {
      maxWorkers: 1,
      isolate: false,
      projects: [
        {
          extends: true,
          test: {
            name: "logic",
            include: ["tests/*.test.{ts,tsx}"],
            setupFiles: ["tests/stand-ins.ts"],
            testTimeout: 60_000,
          },
        },
        {
          extends: true,
          test: { name: "pages", include: ["tests/pages/*.test.{ts,tsx}"], testTimeout: 300_000 },
        },
      ],
    },
  }),
);
