package setup

// Temperatures in °C between which resins are poured and printed as their makers state them:
// below it is cold, above it hot.
const (
	ColdBelowC = 20
	HotAboveC  = 28
)

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

// Band is the band of temperature that a print was made in, by its resin or else its room
// in °C; empty where it was as usual, or where neither is known.
func Band(resinC, roomC *float64) string {
	switch c := TempC(resinC, roomC); {
	case c == nil:
	case *c < ColdBelowC:
		return Cold
	case *c > HotAboveC:
		return Hot
	}
	return ""
}
