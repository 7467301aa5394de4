package compare

import (
	"fmt"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// likeness is what prints are told apart by, found once for all sides: whether a side mixes
// resins or layers that are not under test, and in which bands of temperature each kind of
// plate was printed. Sides that differ throughout are what the audit warns of.
type likeness struct {
	resins, layers bool
	bands          map[string]map[string]bool
}

func likenessOf(sides []side.Prints, underTest []string) likeness {
	l := likeness{bands: map[string]map[string]bool{}}
	for _, s := range sides {
		if s.Reference != nil {
			continue
		}
		for _, sheet := range s.Sheets {
			l.resins = l.resins || sheet.Resin.ID != s.Sheets[0].Resin.ID && !slices.Contains(underTest, "resin")
			l.layers = l.layers || !quantity.Equal(sheet.Profile.LayerUM, s.Sheets[0].Profile.LayerUM) && !slices.Contains(underTest, "layer_um")
			if l.bands[sheet.Printed] == nil {
				l.bands[sheet.Printed] = map[string]bool{}
			}
			l.bands[sheet.Printed][bandOf(sheet)] = true
		}
	}
	return l
}

// unlike tells prints apart that are not set against each other though they hold the same:
// in different resins or layers, where a side mixes them and they are not under test.
func (l likeness) unlike(sheet *printing.RunSheet) (words string) {
	if l.resins {
		words += " in " + sheet.Resin.Name
	}
	if l.layers {
		words += " at " + say.Figure(sheet.Profile.LayerUM) + " µm"
	}
	return words
}

// apart tells the plates printed cold or hot from others that hold the same, where some
// were and some were not: such times are not averaged.
func (l likeness) apart(sheet *printing.RunSheet) string {
	if len(l.bands[sheet.Printed]) < 2 {
		return ""
	}
	coldC, hotC := sheet.Resin.Window().Ends()
	switch bandOf(sheet) {
	case setup.Cold:
		return fmt.Sprintf(", cold (below %s °C)", say.Figure(coldC))
	case setup.Hot:
		return fmt.Sprintf(", hot (above %s °C)", say.Figure(hotC))
	}
	return ""
}

func bandOf(s *printing.RunSheet) string {
	return setup.Band(setup.TempC(s.Run.ResinTempC, s.Run.RoomTempC), s.Resin.Window())
}
