package publish

import (
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/kit"
	"ojime/internal/work/reviews"
)

// surveyed is what was found usable of a machine's plate beside what is claimed of it, and how even
// its light is, empty where that was not measured.
type surveyed struct {
	Machine bench.Machine
	Usable  bench.Usable
	Light   string
}

// surveyedOf are the machines of a review whose plates or light were looked at, in the order of its
// set-ups.
func surveyedOf(t *store.Tx, setups []reviews.SetUp) (out []surveyed, err error) {
	var seen []string
	for _, s := range setups {
		if s.MachineID == "" || slices.Contains(seen, s.MachineID) {
			continue
		}
		seen = append(seen, s.MachineID)
		m, err := t.Machine(s.MachineID)
		if err != nil {
			return nil, err
		}
		usable, err := kit.UsableOf(t, m)
		if err != nil {
			return nil, err
		}
		light, err := firstdays.LightOf(t, m.ID)
		if err != nil {
			return nil, err
		}
		if one := (surveyed{Machine: m, Usable: usable}); usable.Verified != nil || light.Now != nil {
			if light.Now != nil {
				one.Light = light.Says
			}
			out = append(out, one)
		}
	}
	return out, nil
}

// unit is the very machine that was tried: how it came, and what is on record of it, line by line.
type unit struct {
	Machine    string
	Provenance string
	Lines      []string
}

// unitsOf are the machines of a review of whose units something is on record.
func unitsOf(t *store.Tx, setups []reviews.SetUp) (out []unit, err error) {
	var seen []string
	for _, s := range setups {
		if s.MachineID == "" || slices.Contains(seen, s.MachineID) {
			continue
		}
		seen = append(seen, s.MachineID)
		m, err := t.Machine(s.MachineID)
		if err != nil {
			return nil, err
		}
		sheet, err := firstdays.UnitSheetOf(t, m.ID, "")
		if err != nil {
			return nil, err
		}
		one := unit{Machine: m.Name, Provenance: sheet.Provenance}
		if u := sheet.File; u != nil {
			for _, line := range []struct{ name, words string }{
				{"Received", quantity.Or(u.ReceivedOn, "")}, {"Serial", u.Serial}, {"Firmware when it came", u.Firmware}, {"Size", sheet.Size}, {"In the box", sheet.Box}, {"Ways in", sheet.Ports},
				{"How open it is", sheet.Open}, {"Its vendor", sheet.Contacts}, {"Note", u.Note},
			} {
				if line.words != "" {
					one.Lines = append(one.Lines, line.name+": "+strings.TrimSuffix(line.words, ".")+".")
				}
			}
			for _, c := range u.Claimed {
				one.Lines = append(one.Lines, "Claimed, "+c.Source+": "+c.Says)
			}
		}
		if sheet.Photographs != "" {
			one.Lines = append(one.Lines, "Photographs of it: "+sheet.Photographs+".")
		}
		if good := sheet.FirstGood; good != nil && sheet.File != nil {
			one.Lines = append(one.Lines, "From the box to the first good print: "+good.Says+".")
		}
		if one.Provenance != "" || len(one.Lines) > 0 {
			out = append(out, one)
		}
	}
	return out, nil
}
