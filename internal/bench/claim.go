package bench

import (
	"slices"
	"strings"

	"ojime/internal/core/claims"
	"ojime/internal/core/quantity"
)

// Kinds of claims: what sort of thing is claimed, and so what it is held against.
const (
	ClaimWords   = "words"   // what no number says: the reviewer judges it
	ClaimSpeed   = "speed"   // mm/h of a machine, against how its prints rose
	ClaimRatio   = "ratio"   // so many times another machine, of pixels or plate
	ClaimLife    = "life"    // of a film in layers, of light or a filter in h, against what it has done
	ClaimSize    = "size"    // of a plate in mm, against what was found usable
	ClaimMeasure = "measure" // of a row of a review's comparisons
)

// LedgerClaim is what somebody claims of a machine or a resin, or, with neither, of the matter of a review: in their Words,
// and as a number where they give one (Value, by its Bound, Of what; in the unit of its kind). AgainstID is the machine that
// it is compared with, Base what it is compared with as they say it. Source is where it stands, By who says it, Interest
// what they gain by it. Test is what would show it. State is the reviewer's judgement with Why, empty where it follows from
// the record.
type LedgerClaim struct {
	ID           string   `json:"id" required:"false" readOnly:"true"`
	Code         string   `json:"code" required:"false" readOnly:"true"`
	Version      int64    `json:"version" required:"false"`
	CreatedMS    int64    `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID     *string  `json:"review_id" required:"false"`
	MachineID    *string  `json:"machine_id" required:"false"`
	ResinID      *string  `json:"resin_id" required:"false"`
	Words        string   `json:"words" minLength:"1" maxLength:"600"`
	Kind         string   `json:"kind" enum:"words,speed,ratio,life,size,measure"`
	Value        *float64 `json:"value" required:"false"`
	Bound        string   `json:"bound" required:"false" enum:",at_least,at_most,about"`
	Of           string   `json:"of" required:"false" maxLength:"120"`
	AgainstID    *string  `json:"against_id" required:"false"`
	Base         string   `json:"base" required:"false"`
	Source       string   `json:"source" minLength:"1"`
	By           string   `json:"by" required:"false"`
	Interest     string   `json:"interest" enum:"maker,seller,paid,competitor,owner,none,unknown"`
	Test         string   `json:"test" required:"false" maxLength:"600"`
	State        string   `json:"state" required:"false" enum:",met,partly,not_met,cannot_tell,untested,untestable"`
	Why          string   `json:"why" required:"false" maxLength:"600"`
	TakenBackMS  *int64   `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string   `json:"taken_back_why" required:"false" readOnly:"true"`
}

// What a claimed life may be of, and in which direction a claimed size runs.
var (
	Lives      = []string{"film_layers", "light_h", "filter_h"}
	PlateSides = []string{"width", "depth", "height"}
)

// Check says what makes no sense about a claim.
func (l LedgerClaim) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(l.Words) == "" {
		c.Fail("words", "is missing; write the claim down as it is made")
	}
	if strings.TrimSpace(l.Source) == "" {
		c.Fail("source", "is missing; say where the claim stands")
	}
	if l.Kind != ClaimWords {
		switch {
		case l.Value == nil:
			c.Fail("value", "is missing; a claim of %s has a number", l.Kind)
		case *l.Value <= 0 && l.Kind != ClaimMeasure:
			c.Fail("value", "is %v; it is above 0", *l.Value)
		}
		if l.Kind != ClaimMeasure && l.MachineID == nil {
			c.Fail("machine_id", "is missing; say of which machine it is claimed")
		}
	}
	of := func(allowed []string) {
		if !slices.Contains(allowed, l.Of) {
			c.Fail("of", "is %.40q; it is one of: %s", l.Of, strings.Join(allowed, ", "))
		}
	}
	switch l.Kind {
	case ClaimRatio:
		if l.AgainstID == nil || l.MachineID != nil && *l.AgainstID == *l.MachineID {
			c.Fail("against_id", "is missing or the same machine; a ratio is against another one")
		}
		of(append([]string{""}, claims.Quantities()...))
	case ClaimLife:
		of(Lives)
	case ClaimSize:
		of(PlateSides)
	case ClaimMeasure:
		if l.Of == "" {
			c.Fail("of", "is missing; say which measure of the comparison it is about")
		}
		if l.Bound == "" {
			c.Fail("bound", "is missing; say whether it is claimed as at least, at most or about so much")
		}
		if l.MachineID == nil && l.ResinID == nil {
			c.Fail("machine_id", "is missing; say of which machine or resin it is claimed")
		}
	}
	if l.State != "" && strings.TrimSpace(l.Why) == "" {
		c.Fail("why", "is missing; a judgement says what it rests on")
	}
	return c.Err()
}
