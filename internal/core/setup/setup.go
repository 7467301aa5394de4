// Package setup brings the prints of one side of a comparison together: their times,
// biases, outcomes and cost, and the conditions that they were made under. A print may
// hold several pieces; what is asked of one piece is its share of the plate, by volume.
package setup

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/cost"
	"ojime/internal/core/evidence"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
)

// Print is one print of a side, as far as it concerns the piece compared. Share is the
// part of the plate's volume, above 0 and up to 1, that the piece is. TookS is nil with
// NoTime saying why; ResinML, of the whole plate, is nil with NoResin saying why;
// PerLitre is the price of its resin, nil with NoPrice. LightOnS, Layers and
// AttendedMin are those of the whole plate.
type Print struct {
	Code        string
	Copies      int64
	Share       float64
	TookS       *float64
	NoTime      string
	OursS       *float64
	SoftwareS   *float64
	ResinML     *float64
	NoResin     string
	PerLitre    *float64
	NoPrice     string
	LightOnS    float64
	Layers      int64
	AttendedMin float64
	Counts      outcome.Counts
}

// Times are those of a side's prints in s: means over the prints that have one.
// PerPieceS is time by copy of the piece, a mixed plate's by its share.
type Times struct {
	Took      []float64
	MeanS     *float64
	PerPieceS *float64
	OursS     *float64
	SoftwareS *float64
	// Shared says that plates held other pieces too.
	Shared bool
}

// TimesOf brings times together.
func TimesOf(prints []Print) (t Times) {
	var ours, software []*float64
	var sum, part float64
	var copies int64
	for _, p := range prints {
		ours, software = append(ours, p.OursS), append(software, p.SoftwareS)
		t.Shared = t.Shared || p.Share < 1
		if p.TookS == nil {
			continue
		}
		t.Took = append(t.Took, *p.TookS)
		sum, part, copies = sum+*p.TookS, part+p.Share**p.TookS, copies+p.Copies
	}
	t.OursS, t.SoftwareS = MeanKnown(ours), MeanKnown(software)
	if n := len(t.Took); n > 0 {
		t.MeanS, t.PerPieceS = quantity.Ptr(sum/float64(n)), quantity.Ptr(part/float64(copies))
	}
	return t
}

// ResinEach is the resin of one copy of the piece in ml, a mixed plate's by its share;
// nil where no print notes it.
func ResinEach(prints []Print) *float64 {
	var ml float64
	var copies int64
	for _, p := range prints {
		if p.ResinML != nil {
			ml, copies = ml+p.Share**p.ResinML, copies+p.Copies
		}
	}
	if copies == 0 {
		return nil
	}
	return quantity.Ptr(ml / float64(copies))
}

// BiasOf holds the software's estimates against the times taken; nil where no print
// has both.
func BiasOf(prints []Print) (*timing.BiasResult, error) {
	var in timing.BiasInput
	for _, p := range prints {
		if p.SoftwareS != nil && p.TookS != nil {
			in.Pairs = append(in.Pairs, timing.BiasPair{EstimateS: *p.SoftwareS, ActualS: *p.TookS})
		}
	}
	if len(in.Pairs) == 0 {
		return nil, nil
	}
	bias, err := timing.Bias(in)
	return &bias, err
}

// CountsOf adds up what became of the piece's copies.
func CountsOf(prints []Print) (c outcome.Counts) {
	for _, p := range prints {
		c.Sum(p.Counts)
	}
	return c
}

// Prices are what money needs beside the prints.
type Prices struct {
	WastePct     float64
	PowerW       float64
	EnergyPerKWh float64
	LabourPerH   float64
	Consumables  []cost.Consumable
}

// CostOf adds up the piece's share of all plates of a side, so that plates of different
// fill weigh as they were printed; nil with a reason where a figure is not on record.
func CostOf(prints []Print, prices Prices) (*cost.PieceResult, string, error) {
	counts := CountsOf(prints)
	in := cost.PieceInput{WastePct: &prices.WastePct, PowerW: prices.PowerW, EnergyPerKWh: prices.EnergyPerKWh, LabourPerH: prices.LabourPerH,
		Consumables: prices.Consumables, Success: cost.Success{Good: counts.Good(), Tried: counts.Judged()}}
	var money, layers float64
	for _, p := range prints {
		switch {
		case p.NoPrice != "":
			return nil, p.NoPrice, nil
		case p.TookS == nil:
			return nil, fmt.Sprintf("How long %s took is not known: %s.", p.Code, p.NoTime), nil
		case p.ResinML == nil:
			return nil, p.NoResin, nil
		}
		in.ResinML += p.Share * *p.ResinML
		money += p.Share * *p.ResinML / 1000 * *p.PerLitre
		in.Print.TotalS += p.Share * *p.TookS
		in.Print.LightOnS += p.Share * p.LightOnS
		layers += p.Share * float64(p.Layers)
		in.Copies += p.Copies
		in.AttendedMin += p.Share * p.AttendedMin
	}
	in.Print.Layers = int64(quantity.Ceil(layers))
	in.ResinPerLitre = 1000 * money / in.ResinML
	out, err := cost.Piece(in)
	if err != nil || out.PerGoodPiece == nil {
		return &out, "", err
	}
	// Copies of one print share its fate: the yield's interval is that over prints.
	lost, err := evidence.Prints(evidence.PrintsInput{A: PrintCounts(prints, func(c outcome.Counts) int64 { return c.Judged() - c.Good() })})
	out.PerGoodCI = &quantity.Interval{out.PriceAt(1 - lost.A.CI[0]), out.PriceAt(1 - lost.A.CI[1])}
	return &out, "", err
}

// Mixed stands between words that differ within a side.
const Mixed = " / "

// OneOf is the word common to all, or all different ones.
func OneOf[E any](list []E, of func(E) string) string {
	var words []string
	for _, e := range list {
		if w := of(e); !slices.Contains(words, w) {
			words = append(words, w)
		}
	}
	return strings.Join(words, Mixed)
}

// Word is OneOf for words that may be not known, which makes all not known.
func Word[E any](list []E, of func(E) *string) *string {
	for _, e := range list {
		if of(e) == nil {
			return nil
		}
	}
	return quantity.Ptr(OneOf(list, func(e E) string { return *of(e) }))
}

// MeanAll is the mean of a number that is known for every element, else nil.
func MeanAll[E any](list []E, of func(E) *float64) *float64 {
	var sum float64
	for _, e := range list {
		v := of(e)
		if v == nil {
			return nil
		}
		sum += *v
	}
	if len(list) == 0 {
		return nil
	}
	return quantity.Ptr(sum / float64(len(list)))
}

// MeanKnown is the mean of what is known, nil where nothing is.
func MeanKnown(list []*float64) *float64 {
	known := slices.DeleteFunc(slices.Clone(list), func(v *float64) bool { return v == nil })
	return MeanAll(known, func(v *float64) *float64 { return v })
}

// AnyTrue is a flag that is set on any element; nil where none is known to be.
func AnyTrue[E any](list []E, of func(E) *bool) *bool {
	for _, e := range list {
		if v := of(e); v != nil && *v {
			return v
		}
	}
	return nil
}
