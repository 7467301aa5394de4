// Package machine computes the condition of a machine at an instant from what
// happened to it (its knots) and from its ended, real prints: what its film and
// light have seen, when it was levelled and whether it was moved since, what it is
// fitted with, and what its vat holds. Nothing of it is typed with a print, so that
// a print that is dated back gets the condition of its date.
package machine

import (
	"cmp"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
)

// Kinds of knots that the rules know.
const (
	Film         = "film"
	Panel        = "panel"
	Relevel      = "relevel"
	Move         = "move"
	VatClean     = "vat_clean"
	Vat          = "vat"
	AccessoryOn  = "accessory_on"
	AccessoryOff = "accessory_off"
	// Stands says in which room the machine stands; that it was carried there is a Move.
	Stands = "stands"
)

// Parting are the kinds after which a machine is another set-up: what was printed
// before is not pooled with what comes after.
var Parting = []string{Panel, "firmware", "upgrade", "light_calibration", AccessoryOn, AccessoryOff, "plate_surface"}

// Names that a knot's changes may have, beside any other.
const (
	FilmType     = "film type"
	PlateSurface = "plate surface"
	Firmware     = "firmware"
	PanelName    = "panel"
	Accessory    = "accessory"
	RoomName     = "room"
)

// Change is one thing that a knot changed, to what, and from what; empty where that is not said.
type Change struct{ What, To, From string }

// Knot is one or several things that happened to a machine at once. FilmLayers and
// LightH are readings of counters: what the machine itself showed (or was known to
// have) at that instant; UnknownBefore says that nobody knows what the part had seen
// before.
type Knot struct {
	AtMS          int64
	Kinds         []string
	Changes       []Change
	FilmLayers    *float64
	LightH        *float64
	UnknownBefore bool
	ResinID       string
}

// Is reports whether the knot is of a kind, among others.
func (k Knot) Is(kind string) bool { return slices.Contains(k.Kinds, kind) }

// Parts reports whether the knot parts set-ups.
func (k Knot) Parts() bool {
	return slices.ContainsFunc(k.Kinds, func(kind string) bool { return slices.Contains(Parting, kind) })
}

// Tells reports a knot that only says where the machine stood all along: nothing happened to it.
func (k Knot) Tells() bool {
	for _, kind := range k.Kinds {
		if kind != Stands {
			return false
		}
	}
	return len(k.Kinds) > 0 && !slices.ContainsFunc(k.Changes, func(c Change) bool { return strings.ToLower(c.What) != RoomName || c.From != "" })
}

// Print is what one ended, real print took: layers on the film, seconds of light
// (nil where they are hidden), and its resin.
type Print struct {
	StartMS int64
	Layers  int64
	LightS  *float64
	ResinID string
}

// History is a machine's knots and prints, in order.
type History struct {
	knots  []Knot
	prints []Print
	// before[i] is what the first i prints took together.
	before []total
	// verified are the levels that a first layer verified, in order.
	verified []Verified
}

// Verified is a level that an even first layer verified: it holds until the machine is levelled
// again, or until a knot of one of the kinds Ends.
type Verified struct {
	AtMS int64
	Ends []string
}

// WithVerified is the history with the levels that were verified, in any order.
func (h History) WithVerified(levels []Verified) History {
	h.verified = slices.Clone(levels)
	slices.SortStableFunc(h.verified, func(a, b Verified) int { return cmp.Compare(a.AtMS, b.AtMS) })
	return h
}

type total struct {
	layers, lightS float64
	hidden         int64
}

// New orders knots and prints; both may come in any order.
func New(knots []Knot, prints []Print) History {
	h := History{knots: slices.Clone(knots), prints: slices.Clone(prints), before: make([]total, 1, len(prints)+1)}
	slices.SortStableFunc(h.knots, func(a, b Knot) int { return cmp.Compare(a.AtMS, b.AtMS) })
	slices.SortStableFunc(h.prints, func(a, b Print) int { return cmp.Compare(a.StartMS, b.StartMS) })
	for _, p := range h.prints {
		sum := h.before[len(h.before)-1]
		sum.layers += float64(p.Layers)
		if p.LightS == nil {
			sum.hidden++
		} else {
			sum.lightS += *p.LightS
		}
		h.before = append(h.before, sum)
	}
	return h
}

// upTo is how many prints began before an instant.
func (h History) upTo(atMS int64) int {
	n, _ := slices.BinarySearchFunc(h.prints, atMS, func(p Print, at int64) int { return cmp.Compare(p.StartMS, at) })
	return n
}

// Last is when a kind was last done until an instant; nil where none is on record.
func (h History) Last(kind string, atMS int64) *int64 {
	for i := len(h.knots) - 1; i >= 0; i-- {
		if k := &h.knots[i]; k.AtMS <= atMS && k.Is(kind) {
			return quantity.Ptr(k.AtMS)
		}
	}
	return nil
}

// PrintsSince counts the prints that began from one instant on and before another.
func (h History) PrintsSince(sinceMS, atMS int64) int64 {
	return int64(max(0, h.upTo(atMS)-h.upTo(sinceMS)))
}

// Wear is what a film or a source of light has seen at an instant. Amount is nil
// where that is not known: nobody knows what it had seen before, or prints hide it.
// AtLeast is what the record shows, Prints and Hidden are the prints it was added up
// from. SinceMS is the change or counter reading that it counts from, Reading says
// that it was a reading. Beside is what the counter had gained beyond the prints on
// record when it was last read: the machine was used beside the record.
type Wear struct {
	Amount  *float64 `json:"amount"`
	AtLeast float64  `json:"at_least"`
	Prints  int64    `json:"prints"`
	Hidden  int64    `json:"hidden"`
	SinceMS *int64   `json:"since_ms"`
	Reading bool     `json:"reading"`
	Beside  float64  `json:"beside"`
}

// part is a thing that wears: the kind that renews it, its counter, and what prints
// take of it.
type part struct {
	kind    string
	counter func(Knot) *float64
	took    func(total) float64
	hides   bool
}

var (
	film  = part{Film, func(k Knot) *float64 { return k.FilmLayers }, func(t total) float64 { return t.layers }, false}
	light = part{Panel, func(k Knot) *float64 { return k.LightH }, func(t total) float64 { return t.lightS / 3600 }, true}
)

// FilmWear is how many layers the film has on it at an instant. A stopped print
// counts the layers that it reached.
func (h History) FilmWear(atMS int64) Wear { return h.wear(film, atMS) }

// LightWear is how many hours the panel, projector or laser was lit until an
// instant.
func (h History) LightWear(atMS int64) Wear { return h.wear(light, atMS) }

// LayersTook and LightTook are what a kind of upkeep may be counted in.
const (
	LayersTook = "layers"
	LightTook  = "light_h"
)

// Since is the use of the machine since a kind was last done, in layers or in hours
// of light: its own amount where that kind is on record.
func (h History) Since(kind string, atMS int64, took string) Wear {
	p := part{kind, func(Knot) *float64 { return nil }, film.took, false}
	if took == LightTook {
		p.took, p.hides = light.took, true
	}
	return h.wear(p, atMS)
}

func (h History) wear(p part, atMS int64) Wear {
	var out Wear
	base, known, from := 0.0, false, 0
	end := h.upTo(atMS)
	for _, k := range h.knots {
		if k.AtMS > atMS {
			break
		}
		read := p.counter(k)
		if !k.Is(p.kind) && read == nil {
			continue
		}
		at := h.upTo(k.AtMS)
		switch {
		case read != nil:
			out.Beside = 0
			if gained := *read - base - p.took(h.before[at]) + p.took(h.before[from]); known && !k.Is(p.kind) && gained > 0 {
				out.Beside = gained
			}
			base, known = *read, true
		case k.UnknownBefore:
			base, known, out.Beside = 0, false, 0
		default:
			base, known, out.Beside = 0, true, 0
		}
		from, out.SinceMS, out.Reading = at, &k.AtMS, read != nil
	}
	out.Prints = int64(end - from)
	out.AtLeast = base + p.took(h.before[end]) - p.took(h.before[from])
	if p.hides {
		out.Hidden = h.before[end].hidden - h.before[from].hidden
	}
	if known && out.Hidden == 0 {
		out.Amount = quantity.Ptr(out.AtLeast)
	}
	return out
}

// Level is how many whole days ago the machine was levelled, and whether it was
// moved since; nil where the record cannot tell.
type Level struct {
	Days  *float64 `json:"days"`
	Moved *bool    `json:"moved"`
	// VerifiedMS is when the level was verified by a first layer, nil where it was not since it
	// was levelled last; EndedBy is what ended that, empty while it holds.
	VerifiedMS *int64 `json:"verified_ms"`
	EndedBy    string `json:"ended_by"`
}

// LevelAt is the level at an instant.
func (h History) LevelAt(atMS int64) (l Level) {
	levelled, moved := h.Last(Relevel, atMS), h.Last(Move, atMS)
	if levelled != nil {
		l.Days, l.Moved = quantity.Ptr(quantity.WholeDays(atMS-*levelled)), quantity.Ptr(false)
	}
	if moved != nil && (levelled == nil || *moved > *levelled) {
		l.Moved = quantity.Ptr(true)
	}
	l.verify(h, atMS, quantity.Or(levelled, 0))
	return l
}

// verify finds the last level that was verified since the machine was levelled, and what ended it.
func (l *Level) verify(h History, atMS, levelledMS int64) {
	for _, v := range slices.Backward(h.verified) {
		if v.AtMS > atMS || v.AtMS < levelledMS {
			continue
		}
		l.VerifiedMS = &v.AtMS
		for _, kind := range v.Ends {
			for _, k := range h.knots {
				if k.AtMS > v.AtMS && k.AtMS <= atMS && k.Is(kind) && l.EndedBy == "" {
					l.EndedBy = kind
				}
			}
		}
		return
	}
}

// Fitted is what a machine is fitted with; empty where the record does not say.
type Fitted struct {
	Panel        string   `json:"panel"`
	Firmware     string   `json:"firmware"`
	FilmType     string   `json:"film_type"`
	PlateSurface string   `json:"plate_surface"`
	Accessories  []string `json:"accessories"`
	// Room is the room that it stands in.
	Room string `json:"room"`
}

// FittedAt is what the machine is fitted with at an instant: what its knots changed
// last.
func (h History) FittedAt(atMS int64) Fitted {
	out := Fitted{Accessories: []string{}}
	names := map[string]*string{PanelName: &out.Panel, Firmware: &out.Firmware, FilmType: &out.FilmType, PlateSurface: &out.PlateSurface, RoomName: &out.Room}
	for _, k := range h.knots {
		if k.AtMS > atMS {
			break
		}
		for _, c := range k.Changes {
			if into := names[strings.ToLower(c.What)]; into != nil {
				*into = c.To
			}
			if strings.ToLower(c.What) != Accessory {
				continue
			}
			if at := slices.Index(out.Accessories, c.To); k.Is(AccessoryOff) && at >= 0 {
				out.Accessories = slices.Delete(out.Accessories, at, at+1)
			} else if k.Is(AccessoryOn) && at < 0 {
				out.Accessories = append(out.Accessories, c.To)
			}
		}
	}
	slices.Sort(out.Accessories)
	if out.Room == "" {
		out.Room = h.firstRoom()
	}
	return out
}

// firstRoom is where a machine stood before any knot says: where the first that names a room found it,
// unless it was carried there then, or came from elsewhere.
func (h History) firstRoom() string {
	for _, k := range h.knots {
		for _, c := range k.Changes {
			if strings.ToLower(c.What) != RoomName {
				continue
			}
			if k.Is(Move) || c.From != "" {
				return ""
			}
			return c.To
		}
	}
	return ""
}

// VatHolds is what is in the vat: the resin of the last print or of the vat that was
// put in last, and whether it was cleaned since. ResinID is empty where nothing is
// known.
type VatHolds struct {
	ResinID string
	SinceMS int64
	Cleaned bool
}

// VatAt is what the vat holds at an instant.
func (h History) VatAt(atMS int64) (v VatHolds) {
	if n := h.upTo(atMS); n > 0 {
		v.ResinID, v.SinceMS = h.prints[n-1].ResinID, h.prints[n-1].StartMS
	}
	for _, k := range h.knots {
		if k.AtMS > atMS {
			break
		}
		if k.Is(Vat) && k.AtMS >= v.SinceMS {
			v.ResinID, v.SinceMS, v.Cleaned = k.ResinID, k.AtMS, false
		}
		if k.Is(VatClean) && k.AtMS >= v.SinceMS {
			v.Cleaned = true
		}
	}
	return v
}

// PartedAt is the last knot that parts set-ups until an instant; nil before the
// first.
func (h History) PartedAt(atMS int64) *Knot {
	for _, k := range slices.Backward(h.knots) {
		if k.AtMS <= atMS && k.Parts() {
			return &k
		}
	}
	return nil
}

// Condition is all of it at one instant.
type Condition struct {
	Film   Wear   `json:"film"`
	Light  Wear   `json:"light"`
	Level  Level  `json:"level"`
	Fitted Fitted `json:"fitted"`
}

// At is the condition at an instant.
func (h History) At(atMS int64) Condition {
	return Condition{Film: h.FilmWear(atMS), Light: h.LightWear(atMS), Level: h.LevelAt(atMS), Fitted: h.FittedAt(atMS)}
}
