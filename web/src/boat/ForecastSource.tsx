import { useMutation } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { client, dataOf, type Forecast } from "../api/client";
import { useDesign } from "../kit/document";
import { Alarm } from "../kit/ui/Alarm";
import { FileField } from "../kit/ui/FileField";
import { LinkButton } from "../kit/ui/LinkButton";

const LARGEST_BYTES = 200_000;

/** A forecast from the plan's date on: by the service that is set up, or in a file; what it did not understand is said. */
export function ForecastSource(props: {
  words: string;
  fileWords: string;
  inline?: boolean;
  days: number;
  onForecast: (forecast: Forecast) => Promise<void> | void;
  children?: ReactNode; // before them
}) {
  const { words, fileWords, inline, days, onForecast, children } = props;
  const { design } = useDesign();
  const taken = useMutation({
    mutationFn: async (text: string | null | undefined) => {
      if (text === null) throw new Error("A forecast file is 200 kB at most.");
      const asked = { site: design.site, date: design.plan.date ?? "", days };
      const forecast = await dataOf(
        text === undefined
          ? client.POST("/api/year/forecast", { body: asked })
          : client.POST("/api/year/forecast/read", { body: { text } }),
      );
      await onForecast(forecast);
      return forecast.source;
    },
  });
  return (
    <>
      <div className={inline ? "mb-1 flex flex-wrap items-center gap-x-4 gap-y-1" : "mb-1"}>
        {children}
        <LinkButton
          className={inline ? undefined : "block"}
          disabled={taken.isPending}
          onClick={() => taken.mutate(undefined)}
        >
          {words}
        </LinkButton>
        <FileField
          inline={inline}
          label={fileWords}
          name="Forecast file"
          accept=".json,application/json"
          mostBytes={LARGEST_BYTES}
          onText={(text) => taken.mutate(text)}
          onTooLarge={() => taken.mutate(null)}
        />
        {inline && taken.data && <span className="text-[13px] text-muted">{taken.data}</span>}
      </div>
      {taken.error && <Alarm>{taken.error.message}</Alarm>}
    </>
  );
}
