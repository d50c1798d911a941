import { useEffect, useRef, useState } from "react";
import { client, type Joint, type JointResult, taken } from "../../api/client";
import { useJob, withJoint } from "../../job/context";

interface Trial {
  joint: Joint;
  result: JointResult | null;
}

/**
 * A joint while it is dragged: its figures follow the hand, one question at a time, the newest shape next.
 * What was tried stands until the plan has it too.
 */
export function useJointTry(joint: Joint | undefined, planned: JointResult | undefined) {
  const { job, edit, newest, plan } = useJob();
  const [tried, setTried] = useState<Joint | null>(null);
  const [trial, setTrial] = useState<Trial | null>(null);
  const wanted = useRef<Joint | null>(null);
  const asking = useRef(false);
  const held = useRef<Joint | null>(null);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new plan has what was tried before
  useEffect(() => {
    if (!held.current) setTrial(null);
  }, [plan]);

  async function ask() {
    if (asking.current) return;
    asking.current = true;
    while (wanted.current) {
      const asked = wanted.current;
      wanted.current = null;
      const answer = await taken(
        client.POST("/api/jobs/{job_id}/joint", {
          params: { path: { job_id: job.id } },
          body: { document: withJoint(newest(), asked.id, () => asked), joint_id: asked.id },
        }),
      ).catch(() => null);
      if (answer) setTrial({ joint: asked, result: answer.joint ?? null });
    }
    asking.current = false;
  }

  function attempt(change: Partial<Joint>) {
    const from = held.current?.id === joint?.id ? held.current : joint;
    if (!from) return;
    const next = { ...from, ...change };
    held.current = next;
    setTried(next);
    wanted.current = next;
    void ask();
  }

  function done() {
    const kept = held.current;
    held.current = null;
    setTried(null);
    if (kept) edit((before) => withJoint(before, kept.id, () => kept));
  }

  const drawn = tried && tried.id === joint?.id ? tried : joint;
  const result = trial && trial.joint.id === joint?.id ? (trial.result ?? undefined) : planned;
  return { drawn, result, attempt, done };
}
