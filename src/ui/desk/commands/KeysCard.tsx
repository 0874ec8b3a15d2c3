"use client";

import { useState } from "react";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { useDesk } from "../model";
import { LetterKeysField } from "../../account/LetterKeysField";
import { DESK_COMMANDS, type CommandId } from "./commands";
import { ALONE, collides, faultInKey, keyOf, pressed, showKey } from "./keys";

const GROUPS = [...new Set(DESK_COMMANDS.map((a) => a.of))];

/** All keys on one card; each can be given another key. */
export function KeysCard() {
  const { session, view, own: settings } = useDesk();
  const { keys: own } = settings;
  const [asking, setAsking] = useState<CommandId | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const close = () => {
    setAsking(null);
    setFault(null);
    session.close();
  };
  function take(event: React.KeyboardEvent) {
    if (!asking || event.key === "Tab" || ALONE.includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === "Escape") {
      setAsking(null);
      setFault(null);
      return;
    }
    const key = pressed(event);
    const why = faultInKey(asking, key, own);
    setFault(why);
    if (why) return;
    settings.setKeys({ ...own, [asking]: key });
    setAsking(null);
  }
  return (
    <Dialog open={view.open === "keys"} onClose={close} title="Keys of the Desk" wide>
      <div onKeyDownCapture={take}>
        <div className="mb-4">
          <LetterKeysField value={settings.letters} onChange={settings.setLetters} />
        </div>
        {fault ? (
          <p role="alert" className="mb-2 text-ember">
            ▲ {fault}
          </p>
        ) : null}
        <div className="gap-x-8 sm:columns-2">
          {GROUPS.map((group) => (
            <section key={group} aria-label={group} className="mb-4 break-inside-avoid">
              <h3 className="label">{group}</h3>
              <dl>
                {DESK_COMMANDS.filter((a) => a.of === group).map((entry) => (
                  <div
                    key={entry.id}
                    className="flex items-baseline gap-3 border-b border-line py-0.5"
                  >
                    <dt className="w-24 shrink-0">
                      <button
                        type="button"
                        className="cursor-pointer border border-line-strong bg-sunk px-1.5 hover:border-tide"
                        onClick={() => setAsking(entry.id)}
                        aria-label={`${entry.words}: ${showKey(keyOf(entry.id, own))}. Give it another key`}
                      >
                        <kbd>{asking === entry.id ? "press …" : showKey(keyOf(entry.id, own))}</kbd>
                      </button>
                    </dt>
                    <dd className="text-sm">
                      {entry.words}
                      <Collides keyName={keyOf(entry.id, own)} />
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
        <p className="mb-2 text-sm text-soft">
          Readers of the screen go to headings and links by letters of their own while they browse:
          where they take a letter before the Desk does, let letters wait for Ctrl+. here.
        </p>
        <p className="text-sm text-soft">
          <kbd>1</kbd> to <kbd>9</kbd>: favourite comments on what is selected. In a field: Enter
          keeps a note, Shift+Enter begins a new line, Escape leaves; Ctrl+B, Ctrl+I and Ctrl+L set
          bold, italic and a list; Alt+S brings the student’s sentence in, Alt+Q changes the kind of
          note. A key here is changed by pressing it and then the new one.
        </p>
        {Object.keys(own).length > 0 ? (
          <Button small className="mt-2" onClick={() => settings.setKeys({})}>
            All keys as they came
          </Button>
        ) : null}
      </div>
    </Dialog>
  );
}

function Collides({ keyName }: { keyName: string }) {
  const why = collides(keyName);
  return why ? <span className="block text-xs text-ember">▲ {why}</span> : null;
}
