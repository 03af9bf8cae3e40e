/** The world's shores, to some 400 m, about where a passage begins: read once, when somebody looks at a chart. */
import { geoAzimuthalEquidistant, geoContains, geoPath } from "d3-geo";
import { useEffect, useState } from "react";
import { feature } from "topojson-client";
import { type Frame, pixelsOf } from "../../kit/chart/plane";

export type Land = ReturnType<typeof feature>;

const EARTH_M = 6_371_000;
const SIDE_DEG = 12; // what lies farther from the start is not drawn

let kept: Promise<Land> | null = null;

function landOfTheWorld(): Promise<Land> {
  kept ??= import("world-atlas/land-50m.json").then((file) => {
    const world = file.default as unknown as Parameters<typeof feature>[0];
    return feature(world, world.objects.land as Parameters<typeof feature>[1]);
  });
  return kept;
}

/** The land about a start; none where that lies on it (a lake, a canal, a river), or while it is read. */
export function useLandAbout(wanted: boolean, latitude: number, longitude: number): Land | null {
  const [land, setLand] = useState<Land | null>(null);
  useEffect(() => {
    if (!wanted) return;
    let here = true;
    const none = () => undefined; // without shores the way is drawn all the same
    landOfTheWorld().then((found) => here && setLand(found), none);
    return () => {
      here = false;
    };
  }, [wanted]);
  return wanted && land && !geoContains(land, [longitude, latitude]) ? land : null;
}

/** The land as a path on the chart, north up, the start at its place. */
export function landPath(land: Land, start: readonly [number, number], frame: Frame, size: [number, number]) {
  const [latitude, longitude] = start;
  const plane = geoAzimuthalEquidistant()
    .rotate([-longitude, -latitude])
    .scale(pixelsOf(frame, EARTH_M))
    .translate([frame.x0, frame.y0])
    .clipAngle(SIDE_DEG)
    .clipExtent([
      [-4, -4],
      [size[0] + 4, size[1] + 4],
    ]);
  return geoPath(plane)(land) ?? "";
}
