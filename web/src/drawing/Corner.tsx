import type { PointerEvent } from "react";
import type { Fabric, Joint, JointResult } from "../api/client";
import { fixed } from "../format";
import { useShop } from "../shop";
import {
  endOf,
  filletOf,
  isFlat,
  legOf,
  outOf,
  type Point,
  panelOf,
  stripOf,
  throatOf,
  type Wedge,
  wedgesOf,
  widthOf,
} from "./corner";
import { Hatch, PasteGrain, WoodGrain } from "./hatches";
import { Ring } from "./Ring";
import { useWidth } from "./useWidth";

const MOST_TALL = 440;
/** Strips are hairlines at most scales: drawn no thinner than this. */
const LEAST_STRIP_PX = 4;
const USUAL_STRIP_MM = 0.5;
const LABEL_PX = 215;
const EDGE_TO_EDGE_FROM_DEG = 95;

/** The corner to scale and alive: the ring is its radius, the small rings the ends of its strips. */
export function Corner({
  joint,
  result,
  fabrics,
  scaledFor,
  pointed,
  onPoint,
  onTry,
  onDone,
}: {
  joint: Joint;
  result: JointResult | undefined;
  fabrics: Fabric[];
  /** The joint as it was before it was dragged: the scale does not move under the hand. */
  scaledFor: Joint;
  pointed: string;
  onPoint: (id: string) => void;
  onTry: (change: Partial<Joint>) => void;
  onDone: () => void;
}) {
  const [picture, width] = useWidth<SVGSVGElement>();
  const { units } = useShop();
  const flat = isFlat(joint);
  const radius = flat ? 0 : (joint.radius_mm ?? 0);
  const panel = joint.panel_thickness_mm;
  const wedges = wedgesOf(joint);
  const near = wedges[0] as Wedge;
  const laid = stripsOf(joint, result, fabrics, radius, near.angle);
  const wider = stripsOf(scaledFor, result, fabrics, scaledFor.radius_mm ?? 0, near.angle);
  const reach = Math.max(
    legOf(scaledFor.radius_mm ?? 0, near.angle) * 1.7,
    ...wider.map(({ end }) => end + 16),
    panel * 5,
    36,
  );
  const [left, right] = spanOf(near.angle, reach, joint.sides === 2 ? reach + panel : panel * 1.6);
  // Panels that open wide are stitched edge to edge; else the one stands on the other.
  const foremost = joint.sides === 1 && joint.angle_deg > EDGE_TO_EDGE_FROM_DEG && !flat ? 0 : left;
  const labels = 30 + joint.tabs.length * 24 + 34;
  const rise = Math.max(Math.sin(near.angle) * reach, panel);
  const scale = Math.min((width - 60) / (right - left), (MOST_TALL - labels - 34) / (rise + panel), 9);
  // A narrow screen makes it small, and then it takes no more room than it needs.
  const tall = Math.ceil((rise + panel) * scale + labels + 34);
  const x0 = (width - (right - left) * scale) / 2 - left * scale;
  const y0 = 20 + rise * scale;
  const at = ([x, y]: Point): string => `${(x0 + x * scale).toFixed(1)} ${(y0 - y * scale).toFixed(1)}`;
  const outline = (points: Point[]) => `M${points.map(at).join("L")}Z`;
  const thin = Math.max(...laid.map(({ thick }) => thick), 0) * scale < LEAST_STRIP_PX && laid.length > 0;
  const drawnThick = (thick: number) => Math.max(thick, LEAST_STRIP_PX / scale);
  const foot = y0 + panel * scale;

  /** Where the hand is, mm from the corner. */
  function hand(event: PointerEvent): Point {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const x = ((event.clientX - box.left) / box.width) * width;
    const y = ((event.clientY - box.top) / box.height) * tall;
    return [(x - x0) / scale, (y0 - y) / scale];
  }
  const out = outOf(near);
  const setRadius = (mm: number) =>
    onTry({ radius_mm: Math.min(200, Math.max(2, Math.round(mm))), typed: without(joint, "radius_mm") });
  function dragRadius(event: PointerEvent) {
    const [x, y] = hand(event);
    setRadius(Math.max(0, x * out[0] + y * out[1]) / (1 / Math.sin(near.angle / 2) - 1));
  }
  const setWidth = (id: string, mm: number) =>
    onTry({
      tabs: joint.tabs.map((strip) =>
        strip.id === id ? { ...strip, width_mm: Math.min(2000, Math.max(10, Math.round(mm))), typed: {} } : strip,
      ),
    });
  const middle: Point = [
    near.apex[0] + out[0] * throatOf(radius, near.angle),
    near.apex[1] + out[1] * throatOf(radius, near.angle),
  ];
  const words: Point = [
    out[0] * (throatOf(radius, near.angle) + 46 / scale),
    out[1] * (throatOf(radius, near.angle) + 46 / scale),
  ];
  const leg = legOf(radius, near.angle);
  const hover = (id: string) => ({
    onPointerEnter: () => onPoint(id),
    onPointerLeave: () => onPoint(""),
    onFocus: () => onPoint(id),
    onBlur: () => onPoint(""),
    tabIndex: 0,
    role: "button",
    stroke: "var(--color-ink)",
    strokeWidth: pointed === id ? 3 : 1.2,
    className: "outline-none",
  });
  const narrow = x0 + legOf(radius, near.angle) * scale > width - LABEL_PX;
  const flip = laid.some(({ end }) => x0 + end * scale > width - LABEL_PX);
  let beneath = 0;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with things to press and to drag in it
    <svg
      ref={picture}
      viewBox={`0 0 ${width} ${tall}`}
      className="w-full"
      role="group"
      aria-label={
        flat
          ? `Flat seam with ${joint.tabs.length} strips, to scale`
          : `Fillet of radius ${units.words("size", radius)} at ${fixed(joint.angle_deg, 0)} degrees, to scale`
      }
    >
      <defs>
        <WoodGrain id="corner-grain" />
        <WoodGrain id="upright-grain" upright />
        <PasteGrain />
        {laid.map(({ id, fabric }) => {
          const kind = fabrics.find((other) => other.id === fabric);
          return kind && <Hatch key={id} id={`tab-${id}`} architecture={kind.architecture} fibre={kind.fibre} wet />;
        })}
      </defs>
      <path
        d={outline(panelOf([foremost, 0], [1, 0], [0, -1], right - foremost, panel))}
        fill="url(#corner-grain)"
        stroke="var(--color-ink)"
      />
      {flat ? (
        <path d={`M${at([0, 0])}V${foot}`} stroke="var(--color-ink)" strokeWidth="2.5" />
      ) : (
        <path
          d={outline(panelOf([0, 0], near.rise, behind(near.rise), reach, panel))}
          fill="url(#upright-grain)"
          stroke="var(--color-ink)"
        />
      )}
      {joint.glue_mm && !flat ? (
        <path
          {...hover("glue")}
          aria-label={`Glue line of ${units.words("thickness", joint.glue_mm)}`}
          d={`M${at([0, 0])}L${at([-panel / Math.sin(near.angle), 0])}`}
          stroke="var(--color-mid)"
          strokeWidth={Math.max(4, joint.glue_mm * scale)}
        />
      ) : null}
      {result &&
        wedges.map((wedge, side) => {
          const wet = Math.max(leg, ...laid.map(({ end }) => end)) + 10;
          const ends: Point[] = [
            [wedge.apex[0] + wedge.base[0] * wet, wedge.apex[1] + wedge.base[1] * wet],
            wedge.apex,
            [wedge.apex[0] + wedge.rise[0] * wet, wedge.apex[1] + wedge.rise[1] * wet],
          ];
          return (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: two sides that never change places
              key={side}
              {...hover("wet")}
              aria-label="Faces wetted out first"
              d={`M${ends.map(at).join("L")}`}
              fill="none"
              stroke="var(--color-fresh)"
              strokeWidth={pointed === "wet" ? 7 : 4}
            />
          );
        })}
      {radius > 0 &&
        wedges.map((wedge, side) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: two sides that never change places
            key={side}
            {...hover("paste")}
            aria-label="The fillet"
            d={outline(filletOf(wedge, radius))}
            fill="url(#paste)"
          />
        ))}
      {laid.map(({ id, width: wide, thick }, number) => {
        const [from, own] = [beneath, drawnThick(thick)];
        beneath += own;
        return wedges.map((wedge, side) => {
          const end = flat ? wide / 2 : endOf(wide, radius, wedge.angle, Math.min(from, radius * 0.9));
          return (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: two sides that never change places
              key={`${id}${side}`}
              {...hover(id)}
              aria-label={`Strip ${number + 1}`}
              d={outline(
                flat ? flatStrip(end, from, own) : stripOf(wedge, radius, Math.min(from, radius * 0.9), own, end),
              )}
              fill={`url(#tab-${id})`}
            />
          );
        });
      })}
      {laid.map(({ id, width: wide, end, name }, number) => {
        const x = x0 + end * scale;
        // Labels run to the right, the widest strip's on top; where there is no room, to the left, and the other way up.
        const y = foot + 22 + (flip ? number : laid.length - 1 - number) * 24;
        return (
          <g key={id}>
            <path d={`M${x} ${y0 - 4}V${y - 5}h${flip ? -10 : 10}`} stroke="var(--color-ink)" fill="none" />
            <text
              x={x + (flip ? -15 : 15)}
              y={y}
              fontSize="15"
              fontWeight="600"
              textAnchor={flip ? "end" : "start"}
              fill="var(--color-ink)"
            >
              {units.words("size", wide)}
              <tspan fontWeight="400" fontSize="13.5" fill="var(--color-ink-soft)">
                {" "}
                {name}, ends {units.words("size", end)}
              </tspan>
            </text>
            <Ring
              small
              x={x}
              y={y0 - 2}
              label={`End of strip ${number + 1}`}
              words={units.words("size", end)}
              value={end}
              most={1000}
              onDrag={(event) => setWidth(id, widthFor(hand(event)[0]))}
              onStep={(steps) => setWidth(id, wide + 2 * steps)}
              onDone={onDone}
            />
          </g>
        );
        function widthFor(mm: number): number {
          return flat ? 2 * mm : widthOf(Math.max(mm, leg), radius, near.angle, strippedBeneath(laid, number));
        }
      })}
      {!flat && (
        <>
          <path d={`M${at(middle)}L${at(words)}`} stroke="var(--color-ink)" />
          <text
            x={x0 + words[0] * scale + 4}
            y={y0 - words[1] * scale - 6}
            fontSize={radius > 0 ? 30 : 16}
            fill="var(--color-ink)"
            textAnchor={near.angle > 1.9 ? "middle" : "start"}
            className="fig"
          >
            {radius > 0 ? `R ${units.words("size", radius)}` : "drag out its radius"}
          </text>
          {radius > 0 && (
            <>
              <path
                d={`M${x0} ${tall - 30}v12M${x0 + leg * scale} ${tall - 30}v12M${x0} ${tall - 24}h${leg * scale}`}
                stroke="var(--color-ink-soft)"
                fill="none"
              />
              <text
                x={narrow ? x0 - 8 : x0 + leg * scale + 10}
                y={tall - 19}
                textAnchor={narrow ? "end" : "start"}
                fontSize="14"
                fill="var(--color-ink)"
                className="fig"
              >
                leg {units.words("size", leg)}
                {narrow ? "" : `, R is ${fixed(radius / panel, 1)} × the panel`}
              </text>
            </>
          )}
          <Ring
            x={x0 + middle[0] * scale}
            y={y0 - middle[1] * scale}
            label="Radius of the fillet"
            words={units.words("size", radius)}
            value={radius}
            most={200}
            onDrag={dragRadius}
            onStep={(steps) => setRadius(radius + steps)}
            onDone={onDone}
          />
        </>
      )}
      {!flat && (
        <text
          x={narrow ? x0 - 8 : x0 + 14}
          y={tall - 40}
          textAnchor={narrow ? "end" : "start"}
          fontSize="14"
          fill="var(--color-ink-soft)"
        >
          {fixed(joint.angle_deg, 0)}°, {units.words("size", panel)} panels
          {thin && !narrow ? ", strips drawn thicker than they are" : ""}
        </text>
      )}
    </svg>
  );
}

interface LaidStrip {
  id: string;
  fabric: string;
  name: string;
  width: number;
  thick: number;
  end: number;
}

/** The strips that have a width, with where each ends: beneath each lie those before it. */
function stripsOf(
  joint: Joint,
  result: JointResult | undefined,
  fabrics: Fabric[],
  radius: number,
  angle: number,
): LaidStrip[] {
  const flat = isFlat(joint);
  let beneath = 0;
  return joint.tabs.flatMap((strip) => {
    if (!strip.width_mm) return [];
    const known = result?.tabs?.find((tab) => tab.id === strip.id);
    const thick = known?.thickness_mm ?? USUAL_STRIP_MM;
    const end = flat ? strip.width_mm / 2 : endOf(strip.width_mm, radius, angle, Math.min(beneath, radius));
    beneath += thick;
    const name = fabrics.find((fabric) => fabric.id === strip.fabric_id)?.name ?? "no fabric yet";
    return [{ id: strip.id, fabric: strip.fabric_id, name, width: strip.width_mm, thick, end }];
  });
}

const strippedBeneath = (laid: LaidStrip[], number: number) =>
  laid.slice(0, number).reduce((sum, strip) => sum + strip.thick, 0);

function flatStrip(end: number, from: number, thick: number): Point[] {
  return [
    [-end, from],
    [end, from],
    [end, from + thick],
    [-end, from + thick],
  ];
}

/** How far a drawing reaches to the left and the right of the corner, mm. */
function spanOf(angle: number, reach: number, behindMm: number): [number, number] {
  const lean = Math.cos(angle) * reach;
  return [Math.min(-behindMm, lean - behindMm * 0.6), Math.max(reach, lean + behindMm * 0.4)];
}

/** The way out of the back of an upright. */
const behind = (rise: Point): Point => [-rise[1], rise[0]];

function without(joint: Joint, field: string): Record<string, string> {
  const typed = { ...joint.typed };
  delete typed[field];
  return typed;
}
