import { describe, expect, it } from "vitest";
import { amount, figure, length, level, pieces, sentence, strength, unitText } from "./words";

describe("lengths as the shop writes them", () => {
  it.each([
    [76.2, "3 in"],
    [6.35, "1/4 in"],
    [95.25, "3-3/4 in"],
    [4.7625, "3/16 in"],
    [25.4 * 12 + 25.4 / 16, "12-1/16 in"],
    [0, "0 in"],
    [10, "0.39 in"], // no sixteenth
  ])("%d mm is %s", (mm, words) => expect(length(mm, "us")).toBe(words));

  it("is in mm to a tenth where the job is", () => {
    expect(length(76.2, "si")).toBe("76.2 mm");
    expect(length(12.34, "si")).toBe("12.3 mm");
  });
});

describe("levels", () => {
  it.each([
    [3657.6, "12'-0\""],
    [4572 + 25.4 * 7, "15'-7\""],
    [-304.8, "-1'-0\""],
    [-5, "0'-0\""], // nothing has no sign
  ])("%d mm is %s", (mm, words) => expect(level(mm, "us")).toBe(words));
  it("are metres in SI", () => expect(level(3657.6, "si")).toBe("3.66 m"));
});

describe("amounts", () => {
  it("turns kN into kip, and kN*m into kip·ft", () => {
    expect(amount(44.482216, "kN", "us")).toBe("10.0 kip");
    expect(amount(13.558179, "kN*m", "us")).toBe("10.0 kip·ft");
    expect(amount(13.558179, "kN*m", "si")).toBe("13.6 kN·m");
  });
  it("gives nothing no sign", () => expect(amount(-0.01, "kN", "si")).toBe("0.0 kN"));
});

describe("figures", () => {
  it.each([
    [0, "0"],
    [12345, "12345"],
    [123.456, "123.5"],
    [1.23456, "1.235"],
    [0.0123456, "0.0123"],
  ])("%d has four digits: %s", (value, words) => expect(figure(value)).toBe(words));

  it("never says more strength than there is", () => {
    for (const value of [1.23456, 99.9996, 0.12346, 1234.96, 5]) {
      expect(Number(strength(value))).toBeLessThanOrEqual(value);
      expect(value - Number(strength(value))).toBeLessThan(value * 1e-3);
    }
    expect(strength(5)).toBe("5.000"); // and what is round stays so
  });
});

describe("sentences of the service", () => {
  it("has names as words, and units with a dot", () => {
    expect(sentence("plate_shear_rupture at 1.02, M 12 kip*in")).toBe("plate shear rupture at 1.02, M 12 kip·in");
    expect(unitText("N*mm^2")).toBe("N·mm²");
  });
});

describe("pieces", () => {
  const piece = (role: string, section: string, member: string) => ({ role, section, member });
  it("say what is fastened, on what, and who else is there", () => {
    const beam = piece("supported", "W16X40", "B7");
    expect(pieces([beam, piece("support", "W24X68", "G3")])).toBe("W16X40 B7 on W24X68 G3");
    expect(pieces([beam])).toBe("W16X40 B7");
    expect(pieces([beam, piece("support", "W14X90", "C1"), piece("lower_brace", "HSS6X6X3/8", "X2")])).toBe(
      "W16X40 B7 on W14X90 C1 lower brace HSS6X6X3/8 X2",
    );
  });
});
