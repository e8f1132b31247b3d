import { expect, test } from "vitest";
import { gigabytes } from "./size";

test("bytes are shown in gigabytes, with more decimals for fewer", () => {
  expect([12_345_678, 12_345_678_900, 912_345_678_900].map(gigabytes)).toEqual([
    "0.01 GB",
    "12.3 GB",
    "912 GB",
  ]);
});
