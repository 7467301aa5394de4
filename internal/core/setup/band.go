package setup

import "ojime/internal/core/machine"

// Bands of temperature.
const (
	Cold = "cold"
	Hot  = "hot"
)

// TempC is the temperature that a print was made at: its resin's, or else its room's.
func TempC(resinC, roomC *float64) *float64 {
	if resinC != nil {
		return resinC
	}
	return roomC
}

// Band is the band of temperature that a print was made in, in °C: cold or hot outside the
// window of its resin; empty where it was as usual, or where its temperature is not known.
func Band(tempC *float64, window machine.Window) string {
	from, to := window.Ends()
	switch {
	case tempC == nil:
	case *tempC < from:
		return Cold
	case *tempC > to:
		return Hot
	}
	return ""
}
