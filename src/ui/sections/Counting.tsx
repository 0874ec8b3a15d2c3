"use client";

import { toDecimal } from "@/core/scores/decimal";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { CATEGORY_SHOWS, SHOWS_WORDS, type CategoryShows } from "@/core/ledger/shows";
import { ONLY_FLAG } from "@/core/scores/latePolicy";
import type { SectionSetUp } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { useAct } from "../useAct";
import { LatePolicyFields } from "./LatePolicyFields";

/** What holds for all hand-outs of the section unless they say otherwise: lateness, and categories with their weights. */
export function Counting({ view }: { view: SectionSetUp }) {
  const { act, busy, problem, fields } = useAct();
  const [late, setLate] = useState(view.late);
  const [categories, setCategories] = useState<
    (Omit<SectionSetUp["categories"][number], "id"> & { id: string | null })[]
  >(view.categories);
  const [saved, setSaved] = useState(true);
  const total = categories.reduce((sum, c) => sum + (Number(toDecimal(c.weight)) || 0), 0);
  const set = (next: typeof categories) => {
    setCategories(next);
    setSaved(false);
  };
  return (
    <section aria-labelledby="counting">
      <h2 id="counting">How work counts here</h2>
      <div className="mt-2">
        <LatePolicyFields
          value={late}
          inherited={null}
          onChange={(next) => {
            setLate(next ?? ONLY_FLAG);
            setSaved(false);
          }}
          errors={fields}
          at="late"
        />
      </div>
      <p className="label mt-4">Categories and weights</p>
      <ul className="grid gap-2">
        {categories.map((category, n) => (
          <li key={category.id ?? `new ${n}`} className="flex flex-wrap items-center gap-2">
            <input
              aria-label={`Category ${n + 1}`}
              value={category.name}
              onChange={(event) =>
                set(categories.map((c, k) => (k === n ? { ...c, name: event.target.value } : c)))
              }
              className="min-h-9 min-w-40 flex-1 border border-line-strong bg-raised px-2"
            />
            <input
              aria-label={`Weight of ${category.name || `category ${n + 1}`}`}
              inputMode="decimal"
              value={category.weight}
              onChange={(event) =>
                set(categories.map((c, k) => (k === n ? { ...c, weight: event.target.value } : c)))
              }
              className="min-h-9 w-20 border border-line-strong bg-raised px-2 text-right"
            />
            <span className="w-14 text-sm text-soft">
              {total > 0
                ? `${Math.round(((Number(toDecimal(category.weight)) || 0) / total) * 100)} %`
                : ""}
            </span>
            <label className="flex items-center gap-1 text-sm text-soft">
              drops
              <input
                aria-label={`How many are dropped of ${category.name || `category ${n + 1}`}`}
                inputMode="numeric"
                value={category.drop}
                onChange={(event) => {
                  const drop = Math.min(20, Number(event.target.value.replace(/\D/g, "")) || 0);
                  set(categories.map((c, k) => (k === n ? { ...c, drop } : c)));
                }}
                className="min-h-9 w-12 border border-line-strong bg-raised px-2 text-right"
              />
            </label>
            <label className="flex items-center gap-1 text-sm text-soft">
              on paper, seen
              <select
                aria-label={`When students see scores on paper of ${category.name || `category ${n + 1}`}`}
                value={category.shows}
                className="min-h-9 border border-line-strong bg-raised px-1 text-ink"
                onChange={(event) => {
                  const shows = event.target.value as CategoryShows;
                  set(categories.map((c, k) => (k === n ? { ...c, shows } : c)));
                }}
              >
                {CATEGORY_SHOWS.map((when) => (
                  <option key={when} value={when}>
                    {SHOWS_WORDS[when]}
                  </option>
                ))}
              </select>
            </label>
            <Button
              small
              ink="quiet"
              aria-label={`Take out ${category.name}`}
              onClick={() => set(categories.filter((_, k) => k !== n))}
            >
              Take out
            </Button>
            {fields[`categories[${n}].name`] || fields[`categories[${n}].weight`] ? (
              <span role="alert" className="text-sm text-ember">
                ▲ {fields[`categories[${n}].name`] ?? fields[`categories[${n}].weight`]}
              </span>
            ) : null}
          </li>
        ))}
      </ul>
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <div className="mt-3 flex gap-2">
        <Button
          small
          onClick={() =>
            set([
              ...categories,
              { ...{ id: null, name: "", weight: "0", drop: 0 }, shows: "by hand" },
            ])
          }
        >
          Add a category
        </Button>
        <Button
          small
          ink="tide"
          disabled={busy || saved}
          onClick={() =>
            void act(() =>
              call(contract.setCounting, {
                params: { sectionId: view.id },
                body: { late, categories },
              }),
            ).then((done) => done && setSaved(true))
          }
        >
          {saved ? "Kept" : "Keep"}
        </Button>
      </div>
    </section>
  );
}
