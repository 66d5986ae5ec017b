/** A number with so many decimals, a half rounded away from nothing as it is written: 0.225 to 0.23, 1.005 to 1.01. */
export function rounded(v: number, places: number): string {
  const [digits, power = '0'] = String(Math.abs(v)).split('e');
  const whole = Math.round(Number(`${digits}e${Number(power) + places}`));
  return (v < 0 && whole > 0 ? '−' : '') + Number(`${whole}e-${places}`).toFixed(places);
}
