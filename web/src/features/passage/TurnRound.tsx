import { useMutation } from "@tanstack/react-query";
import { client, dataOf } from "../../api/client";
import { useDesign } from "../../kit/document";
import { Alarm } from "../../kit/ui/Alarm";
import { LinkButton } from "../../kit/ui/LinkButton";

/** The way from its far end back to where it began. */
export function TurnRound() {
  const { design, apply } = useDesign();
  const turn = useMutation({
    mutationFn: async () => {
      const way = await dataOf(client.POST("/api/passage/turned", { body: { design } }));
      apply(
        (boat) =>
          boat.passage
            ? { ...boat, passage: { ...boat.passage, ...way, home_again: false, now: null } }
            : boat,
        "way-turned",
      );
    },
  });
  return (
    <>
      <LinkButton className="block" disabled={turn.isPending} onClick={() => turn.mutate()}>
        turn the way round
      </LinkButton>
      {turn.error && <Alarm>{turn.error.message}</Alarm>}
    </>
  );
}
