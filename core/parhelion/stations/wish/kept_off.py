"""What keeps more panel off her: the array that the money would buy, and what refuses it.

References
----------
[1] Told where a refused array has a tenth more sun than any allowed for the money: less is no reason.
"""

from __future__ import annotations

from parhelion.hull.stability import list_deg
from parhelion.quantities import Quantity, Sentence, angle, count, fraction, mass, power, sentence
from parhelion.stations.wish.boats import Yard
from parhelion.stations.wish.combined import MOST_LIST_DEG, Binding, Laid, stiffness_of

MORE_SUN = 1.1  # [1]


def kept_off(yard: Yard) -> tuple[Binding, Sentence] | None:
    """What keeps more panel off her than she may have for the money; None where nothing but money does.

    Parameters
    ----------
    yard : Yard
    """
    coins = yard.wish.coins
    allowed = [laid for laids in yard.laid.values() for laid in laids if laid.cost <= coins]
    best = max(allowed, key=lambda laid: laid.mean_wh, default=None)
    if best is None or not yard.refused.refused:
        return None
    binding, more = max(yard.refused.refused.items(), key=lambda item: item[1].mean_wh)
    if more.mean_wh < MORE_SUN * best.mean_wh:
        return None
    text, slots = _reason(yard, binding, more)
    told = sentence(
        f"The money would buy {{a}} of panel, not the {{b}} she may carry: {text}",
        a=power(_watts(more)), b=power(_watts(best)), **slots,
    )  # fmt: skip
    return binding, told


def _watts(laid: Laid) -> float:
    return sum(option.watts for option in laid.options)


def _reason(yard: Yard, binding: Binding, laid: Laid) -> tuple[str, dict[str, Quantity]]:
    wish = yard.wish
    match binding:
        case "stiffness":
            takes = fraction(stiffness_of(yard.design, laid))
            return "that takes {x} of her stiffness, and {y} may go.", {
                "x": takes, "y": fraction(wish.stiffness_frac),
            }  # fmt: skip
        case "list":
            leans = abs(list_deg(yard.design, laid.athwart_kg_m))
            return "that lists her by {x}, and {y} is felt.", {"x": angle(leans), "y": angle(MOST_LIST_DEG)}
        case "boxes":
            return "that takes {x} charge controllers, and {y} may be.", {
                "x": count(laid.boxes), "y": count(wish.most_boxes or 0),
            }  # fmt: skip
    new = sum(option.mass_kg for option in laid.options if not option.own)
    return "that adds {x}, and {y} may be.", {"x": mass(new), "y": mass(wish.added_kg or 0.0)}
