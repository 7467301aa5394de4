package outcome

import "slices"

// scar is left where a support stood; it counts however the support came off, since
// taking supports off is part of making the piece.
const scar = "support scar"

// Blemishes are the symptoms by which the finish of a copy is judged, in the order in
// which they are shown.
var Blemishes = []string{"visible layer line", "pull lines", "repeating mark", "surface haze", "specks", scar}

// Blemish reports a defect, by its symptom and origin, that counts against the finish of
// its print: a blemish that was printed so, or of which nobody knows, and a scar that came
// of taking supports off.
func Blemish(symptom, origin string) bool {
	if symptom == scar && (origin == "removal" || origin == "supports") {
		return true
	}
	return slices.Contains(Blemishes, symptom) && Defect{Origin: origin}.PrintedSo()
}
