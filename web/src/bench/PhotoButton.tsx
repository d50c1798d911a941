import { useRef, useSyncExternalStore } from "react";
import { BigButton } from "./BigButton";
import { useBench } from "./useBench";

/** A photo taken or picked; one that could not be sent waits on this tablet until it is. */
export function PhotoButton() {
  const { photos } = useBench();
  const { waits, failed } = useSyncExternalStore(photos.subscribe, photos.told);
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept="image/*"
        multiple
        aria-label="Photos"
        tabIndex={-1}
        className="sr-only"
        onChange={(event) => {
          photos.add([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <BigButton onClick={() => picker.current?.click()}>Photo</BigButton>
      {waits > 0 && !failed && (
        <p role="status" className="self-center">
          {waits === 1 ? "A photo is" : `${waits} photos are`} on the way…
        </p>
      )}
      {failed && (
        <div role="alert" className="w-full">
          <p className="text-stop">{failed}</p>
          <div className="mt-2 flex flex-wrap gap-3">
            <BigButton onClick={() => void photos.send()}>Send it again</BigButton>
            <BigButton edits={false} onClick={() => photos.leaveOut()}>
              Leave it out
            </BigButton>
          </div>
        </div>
      )}
    </>
  );
}
