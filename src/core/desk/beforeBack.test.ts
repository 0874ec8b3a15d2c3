import { expect, test } from "@jest/globals";
import { beforeBack, type AboutToGo } from "./beforeBack";

const nothing: AboutToGo = {
  ...{ overall: "", score: "", levels: 0, marks: 0, judgements: 0, earlier: [] },
};
const request = (ruling: string | null) => ({
  ...{ nature: "request", round: 1, request: "done", ruling },
});

test("a piece with nothing on it is asked about; whatever is said of it lets it go", () => {
  expect(beforeBack({ ...nothing, overall: " \n " })).toHaveLength(1);
  for (const said of [
    { overall: "Good." },
    { score: "0" },
    { levels: 1 },
    { marks: 1 },
    { judgements: 1 },
  ])
    expect(beforeBack({ ...nothing, ...said })).toEqual([]);
});

test("requests of the last round that nobody ruled on are counted; remarks are not", () => {
  const remark = { ...request(null), nature: "remark" };
  const ask = (earlier: AboutToGo["earlier"]) => beforeBack({ ...nothing, marks: 1, earlier });
  expect(ask([request("settled"), request("again"), remark])).toEqual([]);
  expect(ask([request(null)])).toEqual([
    "1 request of the last round is neither settled nor asked again.",
  ]);
  expect(ask([request(null), request(null), request("again")])[0]).toContain("2 requests");
});
