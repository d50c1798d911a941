import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Pour, PourHours, Casting as Told } from "../../api/client";
import { Casting } from "../../drawing/Casting";
import { DeepestByRoom } from "../../drawing/DeepestByRoom";
import { between } from "../../drawing/heat";
import { PourCurve } from "../../drawing/PourCurve";
import { fixed, plural, short } from "../../format";
import { useJob, withPour, withQuantity } from "../../job/context";
import { StepCautions } from "../../job/JobCautions";
import { usePointedPath } from "../../job/usePointing";
import { useShop } from "../../shop";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Waiting } from "../../ui/Waiting";
import { Wide } from "../../ui/Wide";
import { Split, Title } from "../Split";
import { Coats } from "./Coats";
import { PourFields } from "./PourFields";
import { freshPour } from "./pours";
import { usePourHours } from "./usePourHours";

export function PoursStep() {
  const { document, plan, job } = useJob();
  const pointed = usePointedPath();
  const coated = Boolean(plan.coats?.length);
  const [shown, show] = useState(pointed.startsWith("parts") || !document.pours.length ? "coats" : "castings");
  const other = shown === "coats" ? "castings" : "coats";
  const turn = coated && document.pours.length > 0 && <Button onClick={() => show(other)}>To the {other}</Button>;
  if (coated && (shown === "coats" || !document.pours.length)) return <Coats more={turn} />;
  if (document.pours.length) return <Castings more={turn} />;
  return (
    <main className="p-6">
      <p>
        This job has no casting and no coat.{" "}
        <Link to={`/jobs/${job.id}/measure`} className="link">
          Add a casting under Measure, or write a coat into a stack
        </Link>
        .
      </p>
    </main>
  );
}

function Castings({ more }: { more: React.ReactNode }) {
  const { document, plan, edit } = useJob();
  const [, pointed = ""] = usePointedPath().match(/^pours\.(\d+)/) ?? [];
  const [chosen, choose] = useState(document.pours[Number(pointed)]?.id ?? "");
  const index = Math.max(
    0,
    document.pours.findIndex((pour) => pour.id === chosen),
  );
  const pour = document.pours[index];
  const told = plan.pours?.find((each) => each.id === pour?.id);
  const { hours, waiting } = usePourHours(told && pour);
  if (!pour) return null;
  const add = () => {
    const fresh = freshPour(`Casting ${document.pours.length + 1}`);
    edit((before) => ({ ...before, pours: [...before.pours, fresh] }));
    choose(fresh.id);
  };
  return (
    <Split
      picture={
        // The picture stays in sight while the sheet beside it is read down.
        <div className="lg:sticky lg:top-0 lg:max-h-dvh lg:overflow-y-auto">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <Title words={titleOf(pour, index)} under={told ? inWords(told, pour) : "Type its measures on the sheet"} />
            <div className="flex flex-wrap gap-2">
              {document.pours.length > 1 &&
                document.pours.map((each, at) => (
                  <Button key={each.id} onClick={() => choose(each.id)} aria-pressed={each.id === pour.id}>
                    {each.name || `Casting ${at + 1}`}
                  </Button>
                ))}
              {more}
              <Button edits onClick={add}>
                Add a casting
              </Button>
            </div>
          </div>
          {told && <Picture key={pour.id} pour={pour} told={told} hours={hours} waiting={waiting} />}
        </div>
      }
      sheet={
        <>
          {told && <Hero told={told} />}
          <StepCautions step="pours" />
          <PourFields key={pour.id} pour={pour} index={index} told={told} />
          {told && <Filling told={told} pour={pour} />}
          {told && <After told={told} />}
          <Button
            edits
            look="text"
            onClick={() =>
              edit((before) => ({ ...before, pours: before.pours.filter((other) => other.id !== pour.id) }))
            }
          >
            Remove this casting
          </Button>
        </>
      }
    />
  );
}

const titleOf = (pour: Pour, index: number) =>
  `${pour.name || `Casting ${index + 1}`}${pour.count > 1 ? `, ${pour.count} alike` : ""}`;

function inWords(told: Told, pour: Pour): string {
  const lifts = told.lifts.length === 1 ? "In one pour" : `In ${told.lifts.length} lifts`;
  return `${lifts}, in ${pour.lies_in}${pour.fan ? ", a fan over it" : ""}${pour.in_the_sun ? ", in the sun" : ""}`;
}

/** The section with its heat, its hours, and what other rooms would allow. Its depth and the moment shown are dragged. */
function Picture({
  pour,
  told,
  hours,
  waiting,
}: {
  pour: Pour;
  told: Told;
  hours: PourHours | null;
  waiting: boolean;
}) {
  const { edit } = useJob();
  const { units } = useShop();
  const [shown, show] = useState<number | null>(null);
  const [tried, attempt] = useState<number | null>(null);
  const [held, hold] = useState(false);
  const peak = hours ? hours.hottest_c.indexOf(Math.max(...hours.hottest_c)) : 0;
  const moment = Math.min(shown ?? peak, (hours?.hours.length ?? 1) - 1);
  const depthMm = tried ?? told.depth_mm;
  const farDeeper = (pour.end_depth_mm ?? 0) > (pour.depth_mm ?? 0);
  const meant = farDeeper ? pour.end_depth_mm : pour.depth_mm;
  // What was let go stands until the plan has it too, or the document has another.
  useEffect(() => {
    if (!held && tried != null && (tried !== meant || Math.abs(told.depth_mm - tried) < 0.05)) attempt(null);
  }, [held, tried, meant, told.depth_mm]);
  const done = () => {
    hold(false);
    if (tried != null && tried !== meant)
      edit((before) =>
        withPour(before, pour.id, (old) => withQuantity(old, farDeeper ? "end_depth_mm" : "depth_mm", tried, "")),
      );
  };
  return (
    <>
      <Casting
        told={told}
        hours={hours}
        moment={moment}
        depthMm={depthMm}
        liesIn={pour.lies_in}
        onDepth={(mm) => {
          hold(true);
          attempt(mm);
        }}
        onDone={done}
      />
      {hours && (
        <p aria-live="polite" className="min-h-6 text-[0.9375rem]">
          {held && tried != null ? (
            <AtOnce hours={hours} depthMm={tried} mostC={told.most_peak_c} />
          ) : (
            <>
              {fixed(hours.hours[moment] ?? 0, 1)} h after the first pour:{" "}
              {units.text("temperature", hours.hottest_c[moment] ?? 0)} at its hottest,{" "}
              {fixed(100 * (hours.cured[moment] ?? 0), 0)} % cured.
            </>
          )}
        </p>
      )}
      {waiting && <Waiting words="Its heat is being worked out" tall="min-h-56" />}
      {!hours && !waiting && (
        <p className="max-w-[60ch] py-3 text-[0.9375rem]">
          {told.heat === "being worked out"
            ? "The heat of this resin is being worked out: its picture comes in a few seconds."
            : "The heat model has nothing to say of this resin: its sheet's depth is the limit."}
        </p>
      )}
      {hours && <PourCurve told={told} hours={hours} moment={moment} onMoment={show} />}
      {hours && (
        <div className="mt-2 grid gap-4 *:min-w-0 xl:grid-cols-2">
          <div>
            <h2 className="text-[0.9375rem] font-semibold">The deepest single pour, by the room</h2>
            <DeepestByRoom told={told} hours={hours} depthMm={depthMm} />
          </div>
          <Lifts told={told} />
        </div>
      )}
      {hours && hours.starts.length > 0 && <Starts hours={hours} />}
    </>
  );
}

/** What a depth under the hand would come to, poured at once. */
function AtOnce({ hours, depthMm, mostC }: { hours: PourHours; depthMm: number; mostC: number }) {
  const { units } = useShop();
  const depths = hours.by_depth.map((point) => point.depth_mm);
  const peakC = between(
    depths,
    hours.by_depth.map((point) => point.peak_c),
    depthMm,
  );
  const peakH = between(
    depths,
    hours.by_depth.map((point) => point.peak_h),
    depthMm,
  );
  return (
    <>
      {units.words("size", depthMm)} at once:{" "}
      <b className="font-semibold">
        {peakC > 150 ? `over ${units.text("temperature", 150)}, smoke` : units.text("temperature", peakC)}
      </b>{" "}
      after {fixed(peakH, 1)} h.{" "}
      {peakC > mostC
        ? "Too hot in one pour: let go, and it is parted into lifts."
        : "It stays cool enough in one pour."}
    </>
  );
}

/** Each lift: when it is poured, how hot it becomes, when it takes the next. */
function Lifts({ told }: { told: Told }) {
  const { units } = useShop();
  const h = (value: number | null | undefined) => (value == null ? "–" : `${short(fixed(value, 1))} h`);
  return (
    <section aria-label="Lifts">
      <h2 className="text-[0.9375rem] font-semibold">
        {told.lifts.length === 1 ? "One pour" : `${told.lifts.length} lifts`}
      </h2>
      <Wide label="Lifts, as a table">
        <table className="mt-1 w-full min-w-[330px] text-right text-[0.9062rem] [&_td+td]:pl-3 [&_th+th]:pl-3">
          <thead className="lab">
            <tr className="border-b border-rule">
              <th className="py-1 text-left font-normal">poured after</th>
              <th className="font-normal">resin</th>
              <th className="font-normal">peak</th>
              <th className="font-normal">gels</th>
              <th className="font-normal">takes the next</th>
            </tr>
          </thead>
          <tbody className="fig">
            {told.lifts.map((lift, at) => (
              <tr key={lift.poured_h ?? at} className="border-b border-rule-faint">
                <td className="py-1 text-left">{at === 0 ? "at once" : h(lift.poured_h)}</td>
                <td>{units.text("mass", lift.resin_g)}</td>
                <td>{lift.peak_c == null ? "–" : units.text("temperature", lift.peak_c)}</td>
                <td>{h(lift.gel_h)}</td>
                <td>
                  {at === told.lifts.length - 1
                    ? "last"
                    : lift.cools_too_late
                      ? "sanded"
                      : `${h(lift.opens_h)} to ${h(lift.bonds_until_h)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="lab mt-1">
        The next lift is poured when the last bears it, still bonds, and is within{" "}
        {units.words("temperature_difference", 5)} of the room. By the heat model, unproven: the sheet and a trial win.
      </p>
    </section>
  );
}

/** The first lift at other hours of the forecast. */
function Starts({ hours }: { hours: PourHours }) {
  const { units } = useShop();
  const open = hours.starts.filter((start) => start.open);
  const coolest = open.toSorted((one, other) => one.peak_c - other.peak_c)[0];
  if (!coolest) return null;
  return (
    <p className="mt-2 border-t border-rule pt-2 text-[0.9062rem]">
      By the room's day, the first pour peaks at{" "}
      {open.map((start, at) => (
        <span key={start.at_h}>
          {at > 0 && ", "}
          <b className={start === coolest ? "font-semibold text-cool" : "font-normal"}>
            {units.text("temperature", start.peak_c)} begun at {start.words}
          </b>
        </span>
      ))}
      {open.length > 1 && `: coolest begun at ${coolest.words}`}.
    </p>
  );
}

function Hero({ told }: { told: Told }) {
  const { plan } = useJob();
  const { units } = useShop();
  const pots = plan.pots?.filter((pot) => pot.owner_id === told.id).reduce((sum, pot) => sum + pot.count, 0) ?? 0;
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
      <Figure name="Resin" {...units.show("mass", told.resin_g)} size={50} about={`casting:${told.id}`} />
      {told.peak_c != null && (
        <Figure
          name="Peak"
          {...units.show("temperature", told.peak_c)}
          size={34}
          tone={told.peak_c > told.most_peak_c + 1 ? "text-stop" : "text-ink"}
        />
      )}
      <div className="pb-1 text-[0.875rem]">
        <p>
          {pots > 0 && `${plural(pots, "pot")}, `}
          {plural(told.lifts.length, "lift")}
          {told.total_h != null && `, hard on top after ${short(fixed(told.total_h, told.total_h < 10 ? 1 : 0))} h`}.
        </p>
        <p className="text-ink-soft">
          {told.part_a_g != null &&
            `A ${units.text("mass", told.part_a_g)}, B ${units.text("mass", told.part_b_g ?? 0)}. `}
          Room {units.text("temperature", told.room_c)}.
        </p>
      </div>
    </div>
  );
}

/** Where the level comes to, what a litre taken for a kilo costs, what a kit gives. */
function Filling({ told, pour }: { told: Told; pour: Pour }) {
  const { units } = useShop();
  const mm = (value: number) => units.words("size", Math.abs(value));
  return (
    <section aria-label="Filling" className="border-t border-rule pt-3 text-[0.9062rem]">
      <h2 className="text-[0.9375rem] font-semibold">What it holds</h2>
      <ul className="mt-1 space-y-1">
        <Row name={told.inserts_l ? "Volume, less what stands in it" : "Volume"}>
          {units.text("volume", 1000 * told.volume_l)}
        </Row>
        {told.fill_g > 0 && (
          <>
            <Row name={`${told.fill_name}, ${units.text("volume", 1000 * told.fill_loose_l)} loose`}>
              {units.text("mass", told.fill_g)}
            </Row>
            <Row name="that is, on the resin / of the whole">
              {fixed(100 * told.fill_on_resin, 1)} / {fixed(100 * told.fill_of_whole, 1)} %
            </Row>
            <Row name="Level of the resin, and what the filling lifts it">
              {mm(told.level_mm)} + {mm(told.rise_mm)}
            </Row>
            {told.other_resin_g != null && (
              <Row
                name={
                  pour.fill_volume === "taken off"
                    ? `Ignoring its volume: ${mm(told.other_short_mm ?? 0)} over the brim`
                    : "With its volume taken off: to the brim"
                }
              >
                {units.text("mass", told.other_resin_g)}
              </Row>
            )}
          </>
        )}
        {Math.abs(told.short_mm) > 0.05 && (
          <Row name={told.short_mm > 0 ? "Short of the brim at first" : "Over the brim"}>{mm(told.short_mm)}</Row>
        )}
        {told.held_back_g > 0 && (
          <Row name={`Held back: lifts it ${mm(told.held_back_mm)}${told.hold_covers ? ", enough" : ", not enough"}`}>
            {units.text("mass", told.held_back_g)}
          </Row>
        )}
        {told.face_g > 0 && <Row name="Face layer first, worked in">{units.text("mass", told.face_g)}</Row>}
        {told.seal_g > 0 && <Row name="Sealing coat on the open wood">{units.text("mass", told.seal_g)}</Row>}
        {told.kilo_short_mm > 0.05 && (
          <Row name={`Measured as if it weighed like water: ${mm(told.kilo_short_mm)} short`}>
            {units.text("volume", 1000 * told.kilo_short_l)}
          </Row>
        )}
        {told.kits.map((kit) => (
          <Row key={kit.mixed_g} name={`A whole kit of ${units.text("mass", kit.mixed_g)} mixed fills`}>
            {mm(kit.depth_mm)}
          </Row>
        ))}
      </ul>
    </section>
  );
}

const Row = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <li className="flex items-baseline justify-between gap-3">
    <span>{name}</span>
    <span className="fig whitespace-nowrap">{children}</span>
  </li>
);

function After({ told }: { told: Told }) {
  const { units } = useShop();
  return (
    <section aria-label="Afterwards" className="border-t border-rule pt-3 text-[0.9062rem]">
      <h2 className="text-[0.9375rem] font-semibold">Afterwards</h2>
      <ol className="mt-1 list-decimal space-y-1 pl-5 marker:text-ink-soft">
        <li>
          Leave it {fixed(told.fingernail_h, 0)} h, then press a fingernail where it does not show. If it marks, leave
          it a day more.
        </li>
        <li>Sand a spot: what looks cured is proved by dust that does not clog.</li>
        <li>
          Pinholes: clean each out, drill it to sound resin, refill. Top up only from{" "}
          {units.words("size", told.levels_from_mm)} on: thinner does not level, and is brushed.
        </li>
      </ol>
    </section>
  );
}
