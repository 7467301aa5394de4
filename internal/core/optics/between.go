package optics

import (
	"math"

	"ojime/internal/core/quantity"
)

// SteppingArcmin is the acuity for steps and lines, which are noticed finer than what
// stands alone: an ordinary eye's for lines that are out of line, not the best eyes'.
const SteppingArcmin = 0.2

// Station is a place from which pieces are looked at, with its distance; a loupe's is the
// distance at which the bare eye would see as much.
type Station struct {
	Name       string  `json:"name"`
	DistanceMM float64 `json:"distance_mm"`
}

// NearPointMM is from where an ordinary eye sees best, and what a loupe's magnification is
// stated for: a loupe of five times shows what the eye would see from a fifth of it.
const NearPointMM = 250.0

// Distances in mm of the usual stations.
const (
	TableMM  = 1000.0
	ArmMM    = 600.0
	InHandMM = 300.0
)

// Stations are the usual ones.
var Stations = []Station{{"on the table", TableMM}, {"at arm's length", ArmMM}, {"in hand", InHandMM}, {"under a loupe of 5 ×", NearPointMM / 5}}

// StepTilts are the tilts in degrees, from the plate, at which layer steps are held
// against each other: a shallow, a usual and a steep face.
var StepTilts = []float64{10, 20, 45}

// Between is a difference of what two sides draw, in µm, as eyes see it: steps that differ
// by it are told apart nearer than WithinMM, as things that stand alone nearer than
// AloneMM; Seen is the verdict on steps from each station (plain, borderline, below).
type Between struct {
	AUM          float64       `json:"a_um"`
	BUM          float64       `json:"b_um"`
	DifferenceUM float64       `json:"difference_um"`
	WithinMM     float64       `json:"within_mm"`
	AloneMM      float64       `json:"alone_mm"`
	Seen         []SeenBetween `json:"seen"`
}

// SeenBetween is a difference from one station.
type SeenBetween struct {
	Station
	Verdict string `json:"verdict" enum:"plain,borderline,below"`
}

// SightBetween holds two sizes in µm, above 0, against each other as eyes see their
// difference; nil where they are the same within a hundredth of a micrometre, which no eye
// tells apart at any distance.
func SightBetween(aUM, bUM float64) (*Between, error) {
	difference := math.Abs(aUM - bUM)
	if difference < 0.01 {
		return nil, nil
	}
	out := Between{AUM: aUM, BUM: bUM, DifferenceUM: difference, WithinMM: withinMM(difference, SteppingArcmin), AloneMM: withinMM(difference, 1)}
	for _, s := range Stations {
		seen, err := Sight(SightInput{SizeUM: difference, DistanceMM: s.DistanceMM, AcuityArcmin: quantity.Ptr(SteppingArcmin)})
		if err != nil {
			return nil, err
		}
		out.Seen = append(out.Seen, SeenBetween{s, seen.Verdict})
	}
	return &out, nil
}

// withinMM is the distance at which a size subtends an acuity.
func withinMM(sizeUM, acuityArcmin float64) float64 {
	return sizeUM / (2 * math.Tan(acuityArcmin/arcminPerRad/2)) / 1000
}

// Expected says beside a score from one station, distanceMM away, what eyes are expected to
// see of two sizes in µm, above 0, that draw what was scored: of a difference by DifferenceUM
// that is plain, borderline or below sight. It is nil where the sizes are the same within a
// hundredth of a micrometre.
func Expected(aUM, bUM, distanceMM float64) (*Expectation, error) {
	difference := math.Abs(aUM - bUM)
	if difference < 0.01 {
		return nil, nil
	}
	seen, err := Sight(SightInput{SizeUM: difference, DistanceMM: distanceMM, AcuityArcmin: quantity.Ptr(SteppingArcmin)})
	if err != nil {
		return nil, err
	}
	return &Expectation{difference, seen.Verdict}, nil
}

// Expectation is what eyes are expected to see of a difference in µm: plain, borderline or
// below sight.
type Expectation struct {
	DifferenceUM float64
	Verdict      string
}

// Words hold the expectation against what scores show: whether both agree, and where they do
// not, where to look.
func (e Expectation) Words(shown bool) string {
	switch {
	case e.Verdict == "below" && shown:
		return "which eyes do not tell from there; the scores differ all the same, so look for what else does"
	case e.Verdict == "below":
		return "which eyes do not tell from there; the scores show no difference either"
	case e.Verdict == "borderline" && shown:
		return "which keen eyes may tell from there; the scores differ"
	case e.Verdict == "borderline":
		return "which keen eyes may tell from there; the scores show no difference"
	case shown:
		return "which eyes tell plainly from there; the scores differ"
	}
	return "which eyes tell plainly from there; the scores show no difference, so more prints are needed, or it does not matter on this piece"
}
