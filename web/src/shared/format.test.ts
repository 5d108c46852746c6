import { describe, expect, it } from 'vitest';
import { bytes, count, metres, niceStep, took, when } from './format';

describe('numbers for people', () => {
  it('parts thousands', () => expect(count(1234567)).toBe('1\u2009234\u2009567'));
  it('names bytes', () => {
    expect(bytes(999)).toBe('999 B');
    expect(bytes(2_310_000)).toBe('2.31 MB');
  });
  it('picks the unit of a length', () => {
    expect(metres(0.96)).toBe('0.96 m');
    expect(metres(0.0074)).toBe('7.4 mm');
    expect(metres(9600)).toBe('9.6 km');
  });
  it('finds round steps', () => {
    expect(niceStep(0.2)).toBeCloseTo(0.25);
    expect(niceStep(3)).toBe(5);
    expect(niceStep(1)).toBe(1);
  });
  it('says when', () => {
    const now = new Date(2026, 0, 2, 12, 0);
    expect(when(new Date(2026, 0, 2, 9, 5).toISOString(), now)).toBe('today 09:05');
    expect(when(new Date(2026, 0, 1, 23, 0).toISOString(), now)).toBe('yesterday 23:00');
    expect(when(new Date(2025, 11, 20, 9, 5).toISOString(), now)).toBe('20 Dec 2025');
  });
});

describe('how long something took', () => {
  it('is told in seconds, then in minutes', () => {
    const from = '2026-11-27T10:00:00Z';
    expect(took(from, '2026-11-27T10:00:00.420Z')).toBe('0.4 s');
    expect(took(from, '2026-11-27T10:00:42Z')).toBe('42 s');
    expect(took(from, '2026-11-27T10:02:05Z')).toBe('2 min 5 s');
    expect(took(from, null)).toBe('');
  });
});
