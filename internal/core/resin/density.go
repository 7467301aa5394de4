package resin

import (
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Between which densities any liquid resin lies, in g/ml: the lightest monomers, and resins
// filled with ceramic. What is beyond them was typed or read wrongly.
const (
	leastDensity = 0.7
	mostDensity  = 2.5
)

// CheckDensity refuses a density in g/ml that no liquid resin has, with an error of the field
// from which it came.
func CheckDensity(field string, densityGML float64) error {
	if densityGML < leastDensity || densityGML > mostDensity {
		return quantity.Errorf(field, "gives %s g/ml, which no resin has; check mass and volume", say.Figure(densityGML))
	}
	return nil
}
