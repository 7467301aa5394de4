// Package diagnose ranks likely causes of a failed print from the conditions on
// record. It weighs evidence by fixed odds that a practitioner would give and
// says what speaks for and against each cause; it proves nothing, and says so
// when the record does not tell.
package diagnose

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Conditions of the failed print; nil is not known. Ratios are against what is
// usual or calibrated on that machine.
type Conditions struct {
	ResinTempC      *float64 `json:"resin_temp_c,omitempty"`
	ExposureRatio   *float64 `json:"exposure_ratio,omitempty"` // over the calibrated one of machine, resin and layer
	Calibrated      *bool    `json:"calibrated,omitempty"`
	FilmShare       *float64 `json:"film_share,omitempty"` // of its stated life used
	FilmClouded     *bool    `json:"film_clouded,omitempty"`
	DaysSinceLevel  *float64 `json:"days_since_level,omitempty"`
	MovedSinceLevel *bool    `json:"moved_since_level,omitempty"`
	BottleAgeDays   *float64 `json:"bottle_age_days,omitempty"`
	BottleExpired   *bool    `json:"bottle_expired,omitempty"`
	LiftMMMin       *float64 `json:"lift_mm_min,omitempty"` // of the first stage
	LargestMM2      *float64 `json:"largest_mm2,omitempty"` // largest layer of the plate
	ContactMM2      *float64 `json:"contact_mm2,omitempty"`
	Islands         *int64   `json:"islands,omitempty"`
	SupportPct      *float64 `json:"support_pct,omitempty"`
	VatShort        *bool    `json:"vat_short,omitempty"`        // the vat held less than the plate takes
	DebrisLikely    *bool    `json:"debris_likely,omitempty"`    // lost something before, vat not cleaned since
	LightShare      *float64 `json:"light_share,omitempty"`      // of the stated life of panel or light used
	RunsSinceStart  *int64   `json:"runs_since_start,omitempty"` // without a restart of the machine, where noted
	SoftwareNew     *bool    `json:"software_new,omitempty"`     // another software than the print before
	Hollow          *bool    `json:"hollow,omitempty"`
	LightAtPct      *float64 `json:"light_at_pct,omitempty"` // least light where a copy with the symptom lay, of the plate's mean
	OverSpot        *bool    `json:"over_spot,omitempty"`    // one of them lay over a spot known as dead or weak
	Surroundings    *bool    `json:"surroundings,omitempty"` // heat, cold or a knock was noted around it
}

// Tried is a remedy that was tried for a cause in this record, and whether the
// symptom came back.
type Tried struct {
	Cause    string `json:"cause"`
	CameBack bool   `json:"came_back"`
}

// Faults is how many of how many judged prints had a symptom.
type Faults struct {
	Of   int64 `json:"of"`
	Were int64 `json:"were"`
}

// Quirk is a fault that the machine's own card names, with what is done against it and
// how prints fared without and with that. With is nil where nothing is done.
type Quirk struct {
	Text       string  `json:"text"`
	Workaround string  `json:"workaround"`
	Without    Faults  `json:"without"`
	With       *Faults `json:"with"`
	Says       string  `json:"says"`
}

// Input is a symptom of the record's own list with its conditions.
type Input struct {
	Symptom    string     `json:"symptom"`
	Conditions Conditions `json:"conditions"`
	Tried      []Tried    `json:"tried"`
	Quirks     []Quirk    `json:"quirks,omitempty"`
	// Judged is every remedy of the record of which it is known whether the fault stayed
	// away, Helped those after which it did, whatever the symptom.
	Judged int64 `json:"judged"`
	Helped int64 `json:"helped"`
}

// Cause is one explanation with its share of the odds (all shares and that of something
// else add up to 1) and that share in a word, what speaks for and against it, what the record does not know of it, the
// cheapest test that would tell, and the remedy. Helped of TriedN tells how it
// fared in this record.
type Cause struct {
	Cause   string   `json:"cause"`
	Title   string   `json:"title"`
	Share   float64  `json:"share"`
	Chance  string   `json:"chance" enum:"likely,possible,unlikely"`
	For     []string `json:"for"`
	Against []string `json:"against"`
	Unknown []string `json:"unknown"`
	Test    string   `json:"test"`
	Remedy  string   `json:"remedy"`
	TriedN  int64    `json:"tried_n"`
	Helped  int64    `json:"helped"`
}

// Result ranks the causes. It warns cannot_tell when nothing on record speaks
// for one more than for another, and no_such_symptom for one without causes.
type Result struct {
	// Quirks are what the machine is known for, and said first.
	Quirks []Quirk `json:"quirks"`
	Causes []Cause `json:"causes"`
	// OtherShare is left for something that is not on the list.
	OtherShare float64 `json:"other_share"`
	// Proven says that so many remedies were judged that shares mean something; HitRate is
	// then how many of all remedies helped. Until then the words alone are shown.
	Proven  bool                 `json:"proven"`
	Judged  int64                `json:"judged"`
	Helped  int64                `json:"helped"`
	HitRate *evidence.RateResult `json:"hit_rate"`
	quantity.Warnings
}

// otherOdds are those of something that is not on the list: as those of a cause of which
// the record says nothing.
const otherOdds = 1

// Shares from which a cause is called likely or possible, and the judged remedies from
// which shares are shown as numbers. They are ours.
const (
	likelyShare   = 0.5
	possibleShare = 0.15
	provenCases   = 20
)

func chanceOf(share float64) string {
	switch {
	case share >= likelyShare:
		return "likely"
	case share >= possibleShare:
		return "possible"
	}
	return "unlikely"
}

// clearOdds is by how much the first cause has to stand above the second, and
// evidence there has to be for it, before the order means anything.
const clearOdds = 1.5

// Rank weighs every cause that can have the symptom. Each piece of evidence
// multiplies its odds; remedies tried in this record multiply them by
// (helped + 1)/(tried + 2) over one half (Laplace's rule).
func Rank(in Input) (Result, error) {
	if in.Symptom == "" {
		return Result{}, quantity.Errorf("symptom", "is missing; say what was wrong")
	}
	out := Result{Quirks: []Quirk{}, Causes: []Cause{}, Judged: in.Judged, Helped: in.Helped, Proven: in.Judged >= provenCases, Warnings: quantity.None()}
	if out.Proven {
		rate, err := evidence.Rate(evidence.Count{Events: in.Helped, Trials: in.Judged})
		if err != nil {
			return out, err
		}
		out.HitRate = &rate
	}
	for _, q := range in.Quirks {
		q.Says = q.sentence()
		out.Quirks = append(out.Quirks, q)
	}
	var odds []float64
	total := float64(otherOdds)
	for _, k := range known {
		if !slices.Contains(k.symptoms, in.Symptom) {
			continue
		}
		c, o := k.weigh(in.Conditions)
		o *= c.history(in.Tried)
		out.Causes, odds, total = append(out.Causes, c), append(odds, o), total+o
	}
	for _, own := range ownCauses(in.Tried) {
		o := own.history(in.Tried)
		out.Causes, odds, total = append(out.Causes, own), append(odds, o), total+o
	}
	if out.OtherShare = otherOdds / total; len(out.Causes) == 0 {
		out.Warn("no_such_symptom", "Nothing is known here of causes of %q; look at the part and the plate.", in.Symptom)
		return out, nil
	}
	for i := range out.Causes {
		out.Causes[i].Share = odds[i] / total
		out.Causes[i].Chance = chanceOf(out.Causes[i].Share)
	}
	sort.SliceStable(out.Causes, func(i, j int) bool { return out.Causes[i].Share > out.Causes[j].Share })
	first := out.Causes[0]
	if len(out.Causes) > 1 && (first.Share < clearOdds*out.Causes[1].Share || len(first.For) == 0 && first.TriedN == 0) {
		out.Warn("cannot_tell", "The record cannot tell these causes apart. Begin with the cheapest test: %s", cheapest(out.Causes).Test)
	}
	return out, nil
}

func (q Quirk) sentence() string {
	fared := func(f Faults, how string) string {
		return fmt.Sprintf("%d of %s %s", f.Were, say.Counted(f.Of, "judged print"), how)
	}
	if q.With == nil {
		return q.Text + ": " + fared(q.Without, "had it") + "."
	}
	return q.Text + ": " + fared(q.Without, "without the workaround had it") + ", " + fared(*q.With, "since") + "."
}

// ownCauses are causes that the reviewer wrote: those tried that the table does not
// know.
func ownCauses(tried []Tried) (out []Cause) {
	seen := map[string]bool{}
	for _, k := range known {
		seen[k.cause] = true
	}
	for _, t := range tried {
		if !seen[t.Cause] {
			seen[t.Cause] = true
			out = append(out, Cause{Cause: t.Cause, Title: t.Cause, For: []string{"written by you"}, Against: []string{}, Unknown: []string{}, Test: "Try your remedy and note whether it came back.", Remedy: "As you noted."})
		}
	}
	return out
}

// cheapest is the first of the likelier half, in the order of the table, which
// runs from looking to replacing.
func cheapest(causes []Cause) Cause {
	half := causes[:int(math.Ceil(float64(len(causes))/2))]
	for _, k := range known {
		for _, c := range half {
			if c.Cause == k.cause {
				return c
			}
		}
	}
	return causes[0]
}

func (c *Cause) history(tried []Tried) float64 {
	for _, t := range tried {
		if t.Cause == c.Cause {
			c.TriedN++
			if !t.CameBack {
				c.Helped++
			}
		}
	}
	return (float64(c.Helped) + 1) / (float64(c.TriedN) + 2) / 0.5
}
