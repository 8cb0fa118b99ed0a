import fc from 'fast-check'
import { activeShare, contact, dose, flush, neutralise, type Product, partLitres, percentAfter, topUp, volume } from '.'

const JUG: Product = { kind: 'liquid', percent: 6, basis: 'w/w', densityKgL: 1.08, ageDays: 120, storedAtC: 18 }
const WELL = { volumeL: 458.6467, targetMgL: 50, demandMgL: 1.2, product: JUG, pH: 7.9, waterC: 9, doses: 2 as const }
const amount = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('volume', () => {
  test('the published well: casing, pipe and pressure tank', () => {
    const { litres, totalL } = volume({
      parts: [
        { kind: 'casing', diameterMm: 150, depthM: 42, staticLevelM: 18 },
        { kind: 'pipe', boreMm: 20.2, lengthM: 30 },
        { kind: 'pressure-tank', volumeL: 100, prechargeKpa: 200, pressureKpa: 300 },
      ],
    })
    expect(litres[0]).toBeCloseTo(424.115, 3)
    expect(litres[1]).toBeCloseTo(9.6142, 4)
    expect(litres[2]).toBeCloseTo(24.9175, 4)
    expect(totalL).toBeCloseTo(458.6467, 4)
  })

  test('a lying cylinder: half full is half of it, full is all of it, empty is nothing', () => {
    const at = (waterDepthM: number): number => partLitres({ kind: 'lying-cylinder', diameterMm: 1000, lengthM: 2, waterDepthM })
    const whole = (Math.PI / 4) * 2 * 1000
    expect(at(1)).toBeCloseTo(whole, 9)
    expect(at(0.5)).toBeCloseTo(whole / 2, 9)
    expect(at(0)).toBeCloseTo(0, 9)
    expect(() => at(1.01)).toThrow(RangeError)
  })

  test('a box of 1.2 by 0.8 m, half a metre deep, is 480 L; an upright cylinder of 1 m, 1 m deep, 785.398 L', () => {
    expect(partLitres({ kind: 'box', lengthM: 1.2, widthM: 0.8, waterDepthM: 0.5 })).toBeCloseTo(480, 9)
    expect(partLitres({ kind: 'upright-cylinder', diameterMm: 1000, waterDepthM: 1 })).toBeCloseTo(785.3982, 4)
  })

  test('a dry well is nothing, and a level under its bottom is refused', () => {
    expect(partLitres({ kind: 'casing', diameterMm: 150, depthM: 20, staticLevelM: 20 })).toBe(0)
    expect(() => partLitres({ kind: 'casing', diameterMm: 150, depthM: 20, staticLevelM: 21 })).toThrow(RangeError)
  })

  test('a pressure tank at or under its precharge holds no water', () => {
    for (const pressureKpa of [200, 120, 0])
      expect(partLitres({ kind: 'pressure-tank', volumeL: 100, prechargeKpa: 200, pressureKpa })).toBe(0)
  })

  test('more depth is never less water', () => {
    fc.assert(
      fc.property(amount(0.2, 3), fc.integer({ min: 0, max: 999 }), fc.integer({ min: 1, max: 1000 }), (diameter, one, two) => {
        const at = (thousandths: number): number =>
          partLitres({ kind: 'lying-cylinder', diameterMm: diameter * 1000, lengthM: 1, waterDepthM: (diameter * thousandths) / 1001 })
        if (one !== two) expect(at(Math.max(one, two))).toBeGreaterThan(at(Math.min(one, two)))
      }),
    )
  })
})

describe('dose', () => {
  test('the published jug: 120 days at 18 °C', () => {
    const made = dose(WELL)
    expect(made.percentNow).toBeCloseTo(5.375193, 6)
    expect(made.perDoseMl).toBeCloseTo(404.511, 3)
    expect(made.activeShare).toBeCloseTo(0.388195, 6)
    expect(made.ruleOfThumb?.ml).toBe(458.6467)
    // 5.375193 % by weight at 1.08 kg/L holds 58.052 mg a mL: a thousandth gives that many mg/L.
    expect(made.ruleOfThumb?.givesMgL).toBeCloseTo(58.052, 3)
    expect(made.warnings).toEqual([])
  })

  test('a label of sodium hypochlorite counts a twentieth less chlorine, and says the same percent', () => {
    const made = dose({ ...WELL, product: { ...JUG, strengthAs: 'sodium-hypochlorite' } as Product })
    expect(made.percentNow).toBeCloseTo(5.375193, 6)
    expect((made.perDoseMl as number) / 404.511).toBeCloseTo(74.442 / 70.906, 5)
  })

  test('granules: 65 % is 650 mg a gram, and no rule of thumb', () => {
    const made = dose({ ...WELL, product: { kind: 'solid', percent: 65 } })
    expect(made.perDoseG).toBeCloseTo((458.6467 * 51.2) / 650, 6)
    expect(made).toMatchObject({ perDoseMl: null, availableMgPerMl: null, ruleOfThumb: null, percentNow: 65 })
  })

  test('warnings look at pH over 8, strength over 200, a jug under six tenths and thickener', () => {
    const old = { ...JUG, percent: 12.5, ageDays: 400, storedAtC: 30, thickened: true } as Product
    expect(dose({ ...WELL, pH: 8.01, targetMgL: 201, product: old }).warnings).toEqual([
      'ph-high',
      'strength-over-200',
      'product-old',
      'product-thickened',
    ])
    expect(dose({ ...WELL, pH: 8, targetMgL: 200 }).warnings).toEqual([])
  })

  test('a dose doubles with the volume', () => {
    fc.assert(
      fc.property(amount(0.1, 1e6), amount(0.5, 400), amount(0, 60), (volumeL, targetMgL, demandMgL) => {
        const one = dose({ ...WELL, volumeL, targetMgL, demandMgL }).perDoseMl as number
        expect((dose({ ...WELL, volumeL: 2 * volumeL, targetMgL, demandMgL }).perDoseMl as number) / one).toBeCloseTo(2, 9)
      }),
    )
  })

  test('a jug only loses strength: with days, faster when it is warm or strong', () => {
    fc.assert(
      fc.property(amount(1, 15), amount(0, 1000), amount(1, 500), amount(-2, 40), (percent, days, more, atC) => {
        const left = percentAfter(percent, days, atC)
        expect(left).toBeLessThanOrEqual(percent)
        expect(percentAfter(percent, days + more, atC)).toBeLessThan(left)
        expect(percentAfter(percent, days + more, atC + 5) / percent).toBeLessThan(percentAfter(percent, days + more, atC) / percent)
        expect(percentAfter(percent * 1.5, days + more, atC) / 1.5).toBeLessThan(percentAfter(percent, days + more, atC))
      }),
    )
  })

  test('10 % at 25 °C halves in 220 days', () => expect(percentAfter(10, 220, 25)).toBeCloseTo(5, 9))
  test('at its pKa half of the chlorine is active: 7.54 at 25 °C after Morris', () => expect(activeShare(7.5373, 25)).toBeCloseTo(0.5, 3))
})

describe('a dose on top', () => {
  // 100 L lack 44 mg/L: 4.4 g, and 50 mg are in each mL.
  test('the litres times what they lack, over what the product holds', () =>
    expect(topUp(6, 44, 100, 50)).toEqual({ inAllMgL: 50, allowed: true, amount: 88 }))
  test('never over 200 mg/L in all, whatever is added', () => {
    expect(topUp(8, 192, 100, 50).allowed).toBe(true)
    expect(topUp(205, 200, 100, 50)).toMatchObject({ inAllMgL: 405, allowed: false })
    expect(topUp(8, 192.1, 100, 50).allowed).toBe(false)
  })
})

describe('contact', () => {
  const NIGHT = { targetMgL: 50, minimumHours: 12 }
  test('the published night: 50, 34, 18', () => {
    const made = contact({
      ...NIGHT,
      strips: [
        { minute: 0, mgL: 50 },
        { minute: 300, mgL: 34 },
        { minute: 720, mgL: 18 },
      ],
    })
    expect(made.achievedMgMinL).toBeCloseTo(23_012.34, 2)
    expect(made.requiredMgMinL).toBe(18_000)
    expect(made.decayPerHour).toBeCloseTo(0.0908556, 6)
    expect(made.decayPerHour).toBeCloseTo(Math.log(34 / 18) / 7, 12)
    expect(made).toMatchObject({ verdict: 'pass', extendMinutes: null, redoseMgL: null })
  })

  const from = (...pairs: [number, number][]) => contact({ ...NIGHT, strips: pairs.map(([minute, mgL]) => ({ minute, mgL })) })
  test('before its hours are over nothing passes, however strong', () =>
    expect(from([0, 200], [360, 200])).toMatchObject({ verdict: 'extend', extendMinutes: 360, achievedMgMinL: 72_000 }))
  test('a strip of nothing counts nothing and is dosed again', () =>
    expect(from([0, 50], [720, 0])).toMatchObject({ achievedMgMinL: 0, decayPerHour: null, verdict: 'redose', redoseMgL: 50 }))
  test('under the floor what is missing to the target is added', () =>
    expect(from([0, 50], [720, 8])).toMatchObject({ verdict: 'redose', redoseMgL: 42 }))
  test('even strips make up what is missing at their own pace', () =>
    // 20 mg/L for 720 min is 14,400 of 18,000: 3,600 more at 20 a minute.
    expect(from([0, 20], [720, 20])).toMatchObject({ verdict: 'extend', extendMinutes: 180 }))
  test('one that would fall under the floor meanwhile is dosed again', () =>
    expect(from([0, 30], [720, 11])).toMatchObject({ verdict: 'redose', redoseMgL: 39 }))
  test('minutes that do not rise, or one strip alone, are refused', () => {
    expect(() => from([0, 50], [0, 40])).toThrow(RangeError)
    expect(() => from([0, 50])).toThrow(RangeError)
  })

  const night = fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), amount(0.5, 200)), { minLength: 2, maxLength: 8 }).map((pairs) => {
    let minute = 0
    return pairs.map(([gap, mgL]) => {
      minute += gap
      return { minute, mgL }
    })
  })
  test('slow water, above pH 8 or below 5 °C, is asked for twice the time and twice the contact', () => {
    const slow = (more: { ph?: number; waterC?: number }, ...pairs: [number, number][]) =>
      contact({ ...NIGHT, ...more, strips: pairs.map(([minute, mgL]) => ({ minute, mgL })) })
    const night: [number, number][] = [
      [0, 50],
      [300, 34],
      [720, 18],
    ]
    // 50 mg/L × 24 h × 60 × 0.5. At this decay 18 mg/L never makes up the missing 12,988 mg·min/L.
    expect(slow({ ph: 8.1 }, ...night)).toMatchObject({ slowWater: true, requiredMgMinL: 36_000, verdict: 'redose', redoseMgL: 32 })
    expect(slow({ waterC: 4.9 }, ...night)).toMatchObject({ slowWater: true, requiredMgMinL: 36_000 })
    expect(slow({ ph: 8, waterC: 5 }, ...night)).toMatchObject({ slowWater: false, requiredMgMinL: 18_000, verdict: 'pass' })
    expect(slow({}, ...night)).toMatchObject({ slowWater: false, verdict: 'pass' })
    // The whole contact after half of the time: the other half is waited for all the same.
    expect(slow({ ph: 9, waterC: 2 }, [0, 50], [720, 50])).toMatchObject({ achievedMgMinL: 36_000, verdict: 'extend', extendMinutes: 720 })
    expect(slow({ ph: 9 }, [0, 50], [1440, 50]).verdict).toBe('pass')
  })

  test('contact grows with each strip', () => {
    fc.assert(
      fc.property(night, (strips) => {
        for (let count = 3; count <= strips.length; count++) {
          const at = (n: number): number => contact({ ...NIGHT, strips: strips.slice(0, n) }).achievedMgMinL
          expect(at(count)).toBeGreaterThan(at(count - 1))
        }
      }),
    )
  })

  test('the sum between strips is the area under the exponential, by a fine trapezium', () => {
    fc.assert(
      fc.property(amount(5, 200), amount(5, 200), fc.integer({ min: 10, max: 900 }), (start, end, minutes) => {
        const k = Math.log(start / end) / minutes
        const n = 4000
        let area = 0
        for (let i = 0; i < n; i++)
          area += ((start * Math.exp((-k * minutes * i) / n) + start * Math.exp((-k * minutes * (i + 1)) / n)) / 2) * (minutes / n)
        const { achievedMgMinL } = contact({
          ...NIGHT,
          strips: [
            { minute: 0, mgL: start },
            { minute: minutes, mgL: end },
          ],
        })
        expect(achievedMgMinL / area).toBeCloseTo(1, 5)
      }),
      { numRuns: 40 },
    )
  })

  test('extended by what it says, at the decay it saw, it passes', () => {
    const falling = fc.tuple(amount(15, 100), amount(0.0001, 0.002), fc.integer({ min: 60, max: 700 }))
    let extended = 0
    fc.assert(
      fc.property(falling, ([start, k, minute]) => {
        const at = (one: number) => ({ minute: one, mgL: start * Math.exp(-k * one) })
        const strips = [at(0), at(minute)]
        const made = contact({ ...NIGHT, strips })
        if (made.verdict !== 'extend') return
        extended++
        // A second more keeps rounding out of it.
        const end = at(minute + (made.extendMinutes as number) + 1 / 60)
        if (end.mgL >= 10) expect(contact({ ...NIGHT, strips: [...strips, end] }).verdict).toBe('pass')
        expect(contact({ ...NIGHT, strips: [...strips, at(minute + (made.extendMinutes as number) * 0.98)] }).verdict).not.toBe('pass')
      }),
      { numRuns: 500 },
    )
    expect(extended).toBeGreaterThan(50)
  })
})

describe('flush', () => {
  test('the published figures', () => {
    const well = flush({ parts: [{ kind: 'mixed', volumeL: 424.115, flowLMin: 20 }], fromMgL: 18, toMgL: 0.5 })
    expect(well.totalMinutes).toBeCloseTo(75.9912, 4)
    expect(well.totalLitres).toBeCloseTo(1519.82, 2)
    const tank = flush({ parts: [{ kind: 'drain-fill', fullL: 1000, heelL: 40 }], fromMgL: 50, toMgL: 0.5 })
    expect(tank).toEqual({ parts: [{ fills: 2, litres: 1920 }], totalLitres: 1920, totalMinutes: 0 })
  })

  test('a whole number of fills stays that number; an empty heel needs one; nothing to do is nothing but a pipe', () => {
    const fills = (heelL: number, fromMgL: number) =>
      flush({ parts: [{ kind: 'drain-fill', fullL: 1000, heelL }], fromMgL, toMgL: 0.5 }).parts[0]
    expect(fills(100, 50)).toMatchObject({ fills: 2 })
    expect(fills(0, 50)).toMatchObject({ fills: 1, litres: 1000 })
    expect(fills(100, 0.5)).toMatchObject({ fills: 0, litres: 0 })
    const pipe = flush({ parts: [{ kind: 'plug', volumeL: 10, flowLMin: 5 }], fromMgL: 0.2, toMgL: 0.5 })
    expect(pipe).toMatchObject({ totalMinutes: 3, totalLitres: 15 })
  })

  test('filled that often what is left is at the limit or under it, and once less is over it', () => {
    fc.assert(
      fc.property(amount(0.01, 0.9), amount(1, 400), (share, fromMgL) => {
        const [part] = flush({ parts: [{ kind: 'drain-fill', fullL: 1000, heelL: 1000 * share }], fromMgL, toMgL: 0.5 }).parts
        const fills = part && 'fills' in part ? part.fills : Number.NaN
        expect(fromMgL * share ** fills).toBeLessThanOrEqual(0.5 * (1 + 1e-6))
        expect(fromMgL * share ** (fills - 1)).toBeGreaterThan(0.5)
      }),
    )
  })
  test('a heel as large as the tank is refused', () =>
    expect(() => flush({ parts: [{ kind: 'drain-fill', fullL: 10, heelL: 10 }], fromMgL: 5, toMgL: 0.5 })).toThrow(RangeError))
})

test('neutraliser for 800 L at 30 mg/L: 168 g of thiosulfate, 60 g of ascorbic acid', () => {
  expect(neutralise({ volumeL: 800, chlorineMgL: 30, agent: 'thiosulfate' }).grams).toBeCloseTo(168, 9)
  expect(neutralise({ volumeL: 800, chlorineMgL: 30, agent: 'ascorbic-acid' }).grams).toBeCloseTo(60, 9)
})
