package equilibrium

import "exactflask/core/values/statistics"

// PKw is that of water at 25 °C.
const PKw = 13.995

// pKw is that of water by temperature, °C. Source: Marshall and Franck 1981 as in the CRC
// Handbook (from memory).
var pKw = []statistics.Point{{X: 0, Y: 14.938}, {X: 5, Y: 14.727}, {X: 10, Y: 14.528}, {X: 15, Y: 14.340}, {X: 20, Y: 14.163}, {X: 25, Y: PKw},
	{X: 30, Y: 13.836}, {X: 35, Y: 13.685}, {X: 40, Y: 13.542}, {X: 45, Y: 13.405}, {X: 50, Y: 13.275}}

// PKwAt is the pKw of water, 0 to 50 °C; beyond, that of the nearest.
func PKwAt(celsius float64) float64 { return statistics.Between(pKw, celsius) }

// Nernst is RT ln 10/F, V: 0.05916 at 25 °C. Source: CODATA 2018 constants.
func Nernst(celsius float64) float64 { return 0.198416e-3 * (celsius + 273.15) }
