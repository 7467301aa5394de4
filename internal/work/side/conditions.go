package side

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/core/viewing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// Conditions are those that the audit weighs, print by print, the machine's own as they
// were when each began.
func (s Prints) Conditions() audit.Conditions {
	if s.Reference != nil {
		return s.conditionsOfReference()
	}
	c := audit.Conditions{
		Process: audit.One(s.Machine.Process()), Machine: audit.One(s.Machine.Name),
		Piece:         audit.One(setup.OneOf(s.Pieces, func(p bench.Piece) string { return p.Name })),
		PieceRevision: audit.One(setup.OneOf(s.Pieces, func(p bench.Piece) string { return fmt.Sprintf("%s (mesh %.8s)", p.Revision, p.MeshSHA256) })),
		ScalePct:      scales(s.Measured.Specimens),
		BottleAgeDays: audit.Each(s.Bottles, func(b machine.Bottle) *float64 { return b.AgeDays }),
		BottleExpired: audit.Each(s.Bottles, func(b machine.Bottle) *bool { return b.Expired() }),
		Lot:           audit.Each(s.Lots, func(lot *string) *string { return lot }),
		Prints:        quantity.Ptr(int64(len(s.Sheets))),
		SurfaceLight:  each(s, func(r *printing.RunSheet) *string { return judgedIn(r, func(v viewing.View) string { return v.Light }) }),
		Station:       each(s, func(r *printing.RunSheet) *string { return judgedIn(r, viewing.View.StationWords) }),
	}
	s.asPrinted(&c)
	s.asSet(&c)
	s.asFitted(&c)
	return c
}

// ConditionsOf are the conditions of one print, as the audit weighs them.
func ConditionsOf(t *store.Tx, reader *printing.Reader, sheet *printing.RunSheet) (audit.Conditions, error) {
	history, err := reader.History(sheet.Machine.ID)
	if err != nil {
		return audit.Conditions{}, err
	}
	s := Prints{Machine: sheet.Machine, History: history}
	if err := s.take(sheet, 1, reader.Bottle); err != nil {
		return audit.Conditions{}, err
	}
	return s.Conditions(), nil
}

// scales are the different scales of the specimens: prints may hold several.
func scales(specimens []bench.Specimen) (out audit.Values) {
	for _, p := range specimens {
		if !slices.Contains(out, any(p.ScalePct)) {
			out = append(out, p.ScalePct)
		}
	}
	return out
}

// each is a condition of every print.
func each[V any](s Prints, of func(*printing.RunSheet) *V) audit.Values {
	return audit.Each(s.Sheets, of)
}

// word is a condition in words; none is not known.
func word(s Prints, of func(*printing.RunSheet) string) audit.Values {
	return each(s, func(r *printing.RunSheet) *string {
		if w := of(r); w != "" {
			return &w
		}
		return nil
	})
}

// asPrinted are the conditions that the print itself tells.
func (s Prints) asPrinted(c *audit.Conditions) {
	c.Resin = word(s, func(r *printing.RunSheet) string { return r.Resin.Name })
	c.FilmLayers = each(s, func(r *printing.RunSheet) *float64 { return r.Condition.Film.Amount })
	c.FilmClouded = each(s, func(r *printing.RunSheet) *bool { return r.Run.FilmClouded })
	c.DaysSinceLevel = each(s, func(r *printing.RunSheet) *float64 { return r.Condition.Level.Days })
	c.MovedSinceLevel = each(s, func(r *printing.RunSheet) *bool { return r.Condition.Level.Moved })
	c.ResinTempC = each(s, func(r *printing.RunSheet) *float64 { return r.Run.ResinTempC })
	c.RoomTempC = each(s, func(r *printing.RunSheet) *float64 { return r.Run.RoomTempC })
	c.RoomOutside = each(s, func(r *printing.RunSheet) *bool { return r.RoomOutside })
	c.RoomDrifted = each(s, drifted)
	c.HumidityPct = each(s, func(r *printing.RunSheet) *float64 { return r.Run.HumidityPct })
	c.HeaterOn = each(s, func(r *printing.RunSheet) *bool { return r.Run.HeaterOn })
	c.Orientation = each(s, func(r *printing.RunSheet) *string { return r.Run.Orientation })
	c.Supports = each(s, func(r *printing.RunSheet) *string { return r.Run.Supports })
	c.WashS = each(s, func(r *printing.RunSheet) *float64 { return r.Run.WashS })
	c.CureS = each(s, func(r *printing.RunSheet) *float64 { return r.Run.CureS })
	c.Surface = each(s, func(r *printing.RunSheet) *string { return r.Run.Surface })
	c.Software = each(s, func(r *printing.RunSheet) *string { return r.Run.Software })
	c.Paused = each(s, func(r *printing.RunSheet) *bool { return quantity.Ptr(r.Run.PausedS > 0) })
	c.PrintedMS = each(s, func(r *printing.RunSheet) *int64 { return &r.Run.StartedMS })
	// Everything on the plate counts here: a full plate is another contest than one piece.
	c.Copies = each(s, func(r *printing.RunSheet) *int64 { return &r.Run.Copies })
	c.Place = word(s, s.place)
	c.Instrument = word(s, s.instruments)
}

// drifted reports a room that moved while a print was made in it; not known of one that was read
// less than twice.
func drifted(r *printing.RunSheet) *bool {
	for _, c := range []*machine.Course{r.Room.RoomC, r.Room.ResinC, r.Room.HumidityPct} {
		if c != nil && c.N > 1 {
			return &r.Room.Drifted
		}
	}
	return nil
}

// asSet are the conditions that the settings tell. A dial that was changed while it
// printed makes them unknown.
func (s Prints) asSet(c *audit.Conditions) {
	dialled := func(of func(bench.Profile) *float64) audit.Values {
		return each(s, func(r *printing.RunSheet) *float64 {
			if r.Run.DialChanged {
				return nil
			}
			return of(r.Profile)
		})
	}
	c.LayerUM = each(s, func(r *printing.RunSheet) *float64 { return &r.Profile.LayerUM })
	c.ExposureBasis = word(s, func(r *printing.RunSheet) string { return r.Profile.Basis })
	c.Antialiasing = each(s, func(r *printing.RunSheet) *string { return quantity.Ptr(kit.AntialiasingWords(r.Profile)) })
	c.ExposureS = dialled(func(p bench.Profile) *float64 { return p.ExposureS })
	c.BottomDoseS = dialled(kit.BottomDoseS)
	c.LightPowerPct = dialled(func(p bench.Profile) *float64 { return p.LightPowerPct })
	c.DoseMJCM2 = dialled(func(p bench.Profile) *float64 {
		if p.ExposureS == nil || s.Machine.IrradianceMWCM2 == nil {
			return nil
		}
		return quantity.Ptr(*p.ExposureS * *s.Machine.IrradianceMWCM2)
	})
	c.Motion = word(s, func(r *printing.RunSheet) string { return r.Motion })
}

// asFitted are the conditions of what the machine is fitted with. What no knot names is
// as the machine came: the same for all its prints, and not that of another's.
func (s Prints) asFitted(c *audit.Conditions) {
	fitted := func(kind string, named func(machine.Fitted) string) audit.Values {
		return word(s, func(r *printing.RunSheet) string {
			name := named(r.Condition.Fitted)
			if at := s.History.Last(kind, r.Run.StartedMS); at != nil {
				return strings.TrimSpace(fmt.Sprintf("%s since %s", name, say.Day(*at)))
			}
			if name == "" {
				name = "as it came"
			}
			return name + " with " + s.Machine.Name
		})
	}
	named := func(of func(machine.Fitted) string) audit.Values {
		return word(s, func(r *printing.RunSheet) string {
			if name := of(r.Condition.Fitted); name != "" {
				return name
			}
			return "as it came with " + s.Machine.Name
		})
	}
	c.Panel = fitted(machine.Panel, func(f machine.Fitted) string { return f.Panel })
	c.Firmware = fitted("firmware", func(f machine.Fitted) string { return f.Firmware })
	c.FilmType = named(func(f machine.Fitted) string { return f.FilmType })
	c.PlateSurface = named(func(f machine.Fitted) string { return f.PlateSurface })
	c.LightPct = each(s, func(r *printing.RunSheet) *float64 {
		if r.Light == nil || len(r.Specimens) == 0 {
			return nil
		}
		return quantity.Ptr(r.Light.MeanOf(r.Specimens)) // of the copies that are compared alone
	})
	c.Room = word(s, func(r *printing.RunSheet) string { return r.Condition.Fitted.Room })
	c.Accessories = word(s, func(r *printing.RunSheet) string {
		if len(r.Condition.Fitted.Accessories) == 0 {
			return "none"
		}
		return strings.Join(r.Condition.Fitted.Accessories, ", ")
	})
}

// place is where on the plate the copies lay: in the middle half each way, at the edge,
// or both; empty where it is not known.
func (s Prints) place(r *printing.RunSheet) string {
	centre, edge := 0, 0
	for _, p := range r.Specimens {
		if p.XMM == nil || p.YMM == nil {
			return ""
		}
		if middle(*p.XMM, s.Machine.WidthMM) && middle(*p.YMM, s.Machine.DepthMM) {
			centre++
		} else {
			edge++
		}
	}
	switch {
	case edge == 0:
		return "centre"
	case centre == 0:
		return "edge"
	}
	return "mixed"
}

func middle(at, of float64) bool { return at >= of/4 && at <= 3*of/4 }

// instruments are those that a print was measured with.
func (s Prints) instruments(r *printing.RunSheet) string {
	used, names := []string{}, []string{}
	for i := range r.Readings {
		reading := &r.Readings[i]
		if reading.ValueMM != nil && reading.InstrumentID != nil && !slices.Contains(used, *reading.InstrumentID) {
			used = append(used, *reading.InstrumentID)
		}
	}
	for _, i := range s.Measured.Instruments {
		if slices.Contains(used, i.ID) && !slices.Contains(names, i.Name) {
			names = append(names, i.Name)
		}
	}
	slices.Sort(names)
	return strings.Join(names, ", ")
}

// judgedIn is what the views of a print's ratings and photographs have in common, in words;
// nil where nobody rated or photographed it.
func judgedIn(sheet *printing.RunSheet, of func(viewing.View) string) *string {
	words := []string{}
	add := func(v viewing.View) {
		if w := of(v); !slices.Contains(words, w) {
			words = append(words, w)
		}
	}
	for _, r := range sheet.Ratings {
		add(r.Sitting.View())
	}
	for _, p := range sheet.Photographs {
		add(p.View())
	}
	if len(words) == 0 {
		return nil
	}
	slices.Sort(words)
	return quantity.Ptr(strings.Join(words, "; "))
}
