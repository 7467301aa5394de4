// Package preflight judges, before a print, what the record knows of the machine, its
// vat and bottle and the plate, item by item: what is fine, what wants a look, what is
// to be done first, and what nobody knows. It never says fine of what it does not
// know.
package preflight

import (
	"fmt"
	"strings"

	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// States of an item.
const (
	Fine    = "fine"
	Look    = "look"
	Act     = "act"
	Unknown = "unknown"
)

// Item is one thing to look at: what the record knows of it, why it matters, and
// whether it must be answered before the start.
type Item struct {
	Item  string
	Title string
	Fact  string
	Why   string
	State string
	Must  bool
}

// LastPrint is the print before on the machine. Unjudged counts its copies that nobody
// has judged yet.
type LastPrint struct {
	Code                   string
	Copies, Lost, Unjudged int64
}

// Bottle is the one chosen for the print.
type Bottle struct {
	Name string
	machine.Bottle
}

// Vat is what the vat holds: the name of its resin (empty where not known), whether it
// is the print's, and whether the vat was cleaned since.
type Vat struct {
	Resin   string
	Same    bool
	Cleaned bool
}

// Plan is a plate as it was laid: its code, copies, and what is wrong with how they lie.
type Plan struct {
	Code     string
	Copies   int64
	Troubles []string
}

// Temperature is a reading of a print before this one, in °C.
type Temperature struct {
	Code string
	C    float64
}

// Facts are what the record knows; nil is not known. LiquidML and DripML are what the
// plate takes, FillML and DeadML what the vat holds and cannot give. ResinDays is for
// how long this machine has not used this resin, FilterDays how old the filter is.
// NoThermometer says that the machine tells no temperature, and never will.
type Facts struct {
	LiquidML, DripML float64
	FillML           *float64
	DeadML           float64
	Bottle           *Bottle
	Before           *LastPrint
	Vat              Vat
	ResinDays        *float64
	Plan             *Plan
	Film             machine.Wear
	FilmLifeLayers   *float64
	FilmClouded      bool
	Level            machine.Level
	LevelOff         bool
	Light            machine.Wear
	LightLifeH       *float64
	FilterDays       *float64
	ResinTempC       *float64
	LastTempC        *Temperature
	// Window is what is stated for the resin.
	Window        machine.Window
	NoThermometer bool
	// Unpeeled are films and locks that must come off, or stay on, before the first print, and
	// were not confirmed.
	Unpeeled []string
}

// Items judges the facts, in the order in which one walks round the machine.
func Items(f Facts) []Item {
	items := []Item{f.content(), f.holds(), f.bottle(), f.debris(), f.fit(), f.film(), f.level(), f.light(), f.filter(), f.temperature(),
		{Item: "clear", Title: "Plate clear and tight", State: Look, Must: true, Fact: "Look: the record cannot know.", Why: "What is left on the plate is pressed into the film."},
		{Item: "caution", Title: "Gloves, eyes, air", State: Look, Must: true,
			Fact: "Gloves and eye protection before pouring; ventilation; solvent away from flame. The resin's safety data sheet, local rules and the machine's manual decide.",
			Why:  "Uncured resin sensitises skin; 365 to 405 nm light and lasers hurt eyes."}}
	if len(f.Unpeeled) > 0 {
		items = append([]Item{f.unpeeled()}, items...)
	}
	for i := range items {
		items[i].Must = items[i].Must || items[i].State == Act
	}
	return items
}

func ml(v float64) string { return say.Whole(v) + " ml" }

func days(v float64) string { return say.Counted(int64(v), "day") }

// unpeeled asks for what must come off, or stay on, before the first print.
func (f Facts) unpeeled() Item {
	return Item{Item: "unpeeled", Title: "Films and locks", State: Act, Why: "A film that stays on ruins the first plate, and one that came off wrongly the panel.",
		Fact: "Not confirmed yet: " + strings.Join(f.Unpeeled, "; ") + ". Confirm it on the machine's page, or here for this print."}
}

// content asks whether the vat holds enough.
func (f Facts) content() Item {
	out := Item{Item: "vat", Title: "Resin in the vat", State: Unknown, Why: "A vat that runs dry leaves half a plate, and debris that can crack the panel."}
	if f.FillML == nil {
		out.Fact = fmt.Sprintf("The plate takes %s; how much the vat holds is not on record.", ml(f.LiquidML+f.DripML))
		return out
	}
	spare := *f.FillML - f.DeadML - f.LiquidML
	out.State, out.Fact = Fine, fmt.Sprintf("The plate takes %s; with %s in the vat, %s stay to spare.", ml(f.LiquidML), ml(*f.FillML), ml(max(0, spare)))
	switch {
	case spare < 0:
		out.State, out.Fact = Act, fmt.Sprintf("The plate takes %s; %s in the vat fall short by %s. Fill up now, or top up in time.", ml(f.LiquidML), ml(*f.FillML), ml(-spare))
	case spare < machine.FewSpareML:
		out.State = Look
	}
	return out
}

// holds asks which resin is in the vat.
func (f Facts) holds() Item {
	out := Item{Item: "vat_resin", Title: "Which resin is in the vat", State: Unknown, Fact: "What the vat holds is not on record.", Why: "Two resins mixed print like neither, and the comparison is lost."}
	switch {
	case f.Vat.Resin == "":
	case f.Vat.Same:
		out.State, out.Fact = Fine, "The vat holds this resin."
	case f.Vat.Cleaned:
		out.State, out.Fact = Fine, fmt.Sprintf("It held %s and was cleaned since.", f.Vat.Resin)
	default:
		out.State, out.Fact = Act, fmt.Sprintf("This vat holds another resin: %s. Empty and clean it, or put another vat in, and tie the knot.", f.Vat.Resin)
	}
	return out
}

func (f Facts) bottle() Item {
	out := Item{Item: "bottle", Title: "Bottle: shake it", State: Unknown, Fact: "No bottle is chosen, so its age is not known.", Why: "Settled pigment and aged resin change exposure, colour and strength."}
	if f.Bottle != nil {
		switch b := f.Bottle; {
		case b.PastDays != nil && *b.PastDays > 0:
			out.State, out.Fact = Act, fmt.Sprintf("%s expired %s ago.", b.Name, days(*b.PastDays))
		case b.AgeDays == nil:
			out.Fact = fmt.Sprintf("%s: when it was opened is not on record.", b.Name)
		default:
			out.State, out.Fact = Look, fmt.Sprintf("%s was opened %s ago.", b.Name, days(*b.AgeDays))
			if *b.AgeDays > machine.OldBottleDays {
				out.State = Act
			}
		}
	}
	if f.ResinDays != nil && *f.ResinDays > machine.SettledDays {
		out.Fact += fmt.Sprintf(" This machine last used this resin %s ago: stir the vat too.", days(*f.ResinDays))
	}
	return out
}

// debris asks after scraps when the print before lost something.
func (f Facts) debris() Item {
	out := Item{Item: "debris", Title: "Vat free of debris", State: Unknown, Fact: "No print before this one is on record.", Why: "Cured scraps crack panels and tear films, and cost the next plate."}
	b := f.Before
	switch {
	case b == nil:
	case f.Vat.Cleaned:
		out.State, out.Fact = Fine, fmt.Sprintf("The vat was cleaned since %s.", b.Code)
	case b.Lost > 0:
		out.State, out.Fact = Act, fmt.Sprintf("%s lost %d of %d, and no cleaning of the vat is on record since.", b.Code, b.Lost, b.Copies)
	case b.Unjudged > 0:
		out.State, out.Fact = Look, fmt.Sprintf("%s is not judged yet, so what it left in the vat is not known. Judge it, or sieve the vat.", b.Code)
	default:
		out.State, out.Fact = Fine, fmt.Sprintf("The last print, %s, lost nothing.", b.Code)
	}
	return out
}

// fit says whether everything lies well on the plate.
func (f Facts) fit() Item {
	out := Item{Item: "fit", Title: "All of it on the plate", State: Unknown, Fact: "Printed without a plan of the plate, so how it lies is not known.", Why: "What reaches over the edge or the height is cut off without a word."}
	if p := f.Plan; p != nil {
		out.State, out.Fact = Fine, fmt.Sprintf("%s: %s, nothing off the plate or too near.", p.Code, say.Counted(p.Copies, "copy", "copies"))
		if n := len(p.Troubles); n > 0 {
			out.State, out.Fact = Act, fmt.Sprintf("%s: %s (%s).", p.Code, p.Troubles[0], say.Counted(int64(n), "trouble"))
		}
	}
	return out
}

// worn judges a part by its wear and stated life.
func worn(w machine.Wear, life *float64, unit string) (state, fact string) {
	amount := say.Whole(w.AtLeast) + " " + unit
	switch {
	case w.Amount == nil && w.SinceMS == nil && w.Prints == 0:
		return Unknown, "What it has seen is not known."
	case w.Amount == nil:
		state, fact = Unknown, "At least "+amount+"; the rest is not known."
	default:
		state, fact = Fine, amount+"."
	}
	if w.Amount != nil && life == nil {
		return Look, amount + "; no life is stated."
	}
	if life == nil {
		return state, fact
	}
	share := w.AtLeast / *life
	if w.Amount != nil {
		fact = fmt.Sprintf("%s, %s of a stated life.", amount, say.Percent(share))
	}
	switch machine.WornState(share) {
	case "due":
		state = Act
	case "soon":
		state = Look
	}
	return state, fact
}

func (f Facts) film() Item {
	out := Item{Item: "film", Title: "Film", Why: "A clouded or slack film blurs detail and tears supports."}
	out.State, out.Fact = worn(f.Film, f.FilmLifeLayers, "layers")
	if f.FilmClouded {
		out.State, out.Fact = Act, out.Fact+" It was seen to be clouded."
	}
	return out
}

func (f Facts) light() Item {
	out := Item{Item: "light", Title: "Panel or light", Why: "A worn panel or lamp gives less light, and old exposures no longer hold."}
	out.State, out.Fact = worn(f.Light, f.LightLifeH, "h lit")
	return out
}

func (f Facts) level() Item {
	out := Item{Item: "level", Title: "Levelled", State: Unknown, Fact: "When it was levelled is not known.", Why: "An uneven first layer lets one side go, and makes sizes differ across the plate."}
	if d := f.Level.Days; d != nil {
		out.State, out.Fact = Fine, days(*d)+" ago."
		if *d > machine.OldLevelDays {
			out.State = Look
		}
	}
	if at := f.Level.VerifiedMS; at != nil {
		out.Fact += " Verified by a first layer on " + say.Day(*at) + "."
		if f.Level.EndedBy != "" {
			out.State, out.Fact = Look, out.Fact+" That ended by: "+say.Words(f.Level.EndedBy)+"."
		}
	}
	if quantity.Or(f.Level.Moved, false) {
		out.State, out.Fact = Act, out.Fact+" The machine was moved since."
	}
	if f.LevelOff {
		out.State, out.Fact = Act, out.Fact+" It was seen to be off level."
	}
	return out
}

func (f Facts) filter() Item {
	out := Item{Item: "filter", Title: "Filter and air", State: Look, Fact: "No change of a filter is on record.", Why: "Vapours sensitise; a spent filter only moves them about."}
	if f.FilterDays != nil {
		out.State, out.Fact = Fine, fmt.Sprintf("Changed %s ago.", days(*f.FilterDays))
	}
	return out
}

func (f Facts) temperature() Item {
	out := Item{Item: "temperature", Title: "Resin temperature", State: Look, Why: "Cold resin is thick: it peels harder, cures less and tears supports.",
		Fact: "Measure it; resins like about " + f.Window.Words() + "."}
	if f.Window.Stated() {
		out.Fact = "Measure it; " + f.Window.Words() + " are stated for this resin."
	}
	from, to := f.Window.Ends()
	switch c := f.ResinTempC; {
	case c != nil:
		out.State, out.Fact = Fine, say.Figure(*c)+" °C."
		if *c < from || *c > to {
			out.State = Act
			out.Fact += " Outside " + f.Window.Words() + "."
		}
	case f.NoThermometer:
		out.State, out.Fact = Unknown, "Not known: this machine tells no temperature, as noted with it."
	case f.LastTempC != nil:
		out.Fact += fmt.Sprintf(" At %s it had %s °C.", f.LastTempC.Code, say.Figure(f.LastTempC.C))
	}
	return out
}

// DebrisLikely reports a print before that lost something, with no cleaning of the vat
// since; nil where there is none, or where it is not judged.
func DebrisLikely(f Facts) *bool {
	if f.Before == nil || (f.Before.Unjudged > 0 && f.Before.Lost == 0) {
		return nil
	}
	return quantity.Ptr(f.debris().State == Act)
}
