import type { StringsPicture } from "../../api/client";
import { SaveAs } from "../../kit/ui/SaveAs";
import { Head, View } from "../../kit/ui/View";

/** What the wiring is made of, counted from the circuits that are drawn; kept as CSV. */
export function PartsList({ picture }: { picture: StringsPicture }) {
  return (
    <View label="Parts" data-parts>
      {picture.parts.length === 0 ? (
        <p className="text-muted">Nothing is wired yet.</p>
      ) : (
        <table className="[&_th:not(:first-child)]:text-left! plain-table max-w-[620px]">
          <Head of={["how many", "what", "where"]} />
          <tbody>
            {picture.parts.map((part, i) => (
              <tr key={`${part.item}/${part.where}/${i}`}>
                <td className="tabular whitespace-nowrap">
                  {part.quantity} {part.unit === "pieces" ? "" : part.unit}
                </td>
                <td className="text-left!">{part.item}</td>
                <td className="text-left! text-muted">{part.where}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-2 mb-1 text-[13px] text-muted">
        Cable for both conductors, a tenth to spare. Counted from the diagram; terminals, glands and clips are
        yours.
      </p>
      <WiringFiles parts />
    </View>
  );
}

/** The wiring as files: everything on paper as a PDF, the parts as CSV. */
export const WiringFiles = ({ parts }: { parts?: boolean }) => (
  <span className="no-print flex flex-wrap items-center gap-3 text-[13px]">
    {parts && (
      <SaveAs url="/api/strings/parts.csv" file="parts.csv">
        save as CSV
      </SaveAs>
    )}
    <SaveAs url="/api/strings/wiring.pdf" file="wiring.pdf">
      all of the wiring as PDF
    </SaveAs>
  </span>
);
