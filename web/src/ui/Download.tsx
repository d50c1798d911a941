import { useState } from "react";

/** A file that takes the server a moment: says that it is being made until it is there. */
export function Download({ href, name, children }: { href: string; name: string; children: string }) {
  const [making, setMaking] = useState(false);
  const [said, say] = useState("");
  const fetch_ = async () => {
    setMaking(true);
    say("");
    try {
      const answer = await fetch(href);
      if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
      const address = URL.createObjectURL(await answer.blob());
      const link = document.createElement("a");
      link.href = address;
      link.download = name;
      link.click();
      URL.revokeObjectURL(address);
    } catch (error) {
      say((error as Error).message);
    }
    setMaking(false);
  };
  return (
    <span>
      <button
        type="button"
        className="link min-h-7 px-0.5 text-[0.875rem]"
        disabled={making}
        onClick={() => void fetch_()}
      >
        {making ? `making ${children} …` : children}
      </button>
      {said && (
        <span role="alert" className="pl-2 text-[0.8125rem] text-stop">
          {said}
        </span>
      )}
    </span>
  );
}
