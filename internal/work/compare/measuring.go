package compare

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/instruments"
	"ojime/internal/work/side"
)

// gauges are what repeatability studies say of the instruments on record: the least
// difference of two single readings that is not the instrument's own, in mm.
func gauges(t *store.Tx, tools []bench.Instrument) (map[string]float64, []string, error) {
	smallest, says := map[string]float64{}, []string{}
	for _, i := range tools {
		study, err := instruments.LastStudy(t, i)
		if err != nil {
			return nil, nil, err
		}
		if study == nil {
			continue
		}
		smallest[i.ID] = study.Result.SmallestVisibleMM
		says = append(says, fmt.Sprintf("%s (study %s): %s", i.Name, study.Study.Code, study.Says[0]))
	}
	return smallest, says, nil
}

// measuringOf says what the measuring itself does to the sizes of the sides: what studies of
// their instruments show, and which readings are in doubt.
func measuringOf(t *store.Tx, sides []side.Prints) ([]string, error) {
	used := []bench.Instrument{}
	for _, s := range sides {
		for _, i := range s.Measured.Instruments {
			if s.UsedOn(i.ID) && !slices.ContainsFunc(used, func(o bench.Instrument) bool { return o.ID == i.ID }) {
				used = append(used, i)
			}
		}
	}
	_, out, err := gauges(t, used)
	if err != nil {
		return nil, err
	}
	for i, s := range sides {
		doubtful, all, coated := 0, 0, 0
		for _, sheet := range s.Sheets {
			for _, r := range sheet.Readings {
				if r.ValueMM != nil {
					all++
				}
			}
			doubtful += len(sheet.Doubtful)
			coated += len(sheet.Readings) - len(sheet.Bare())
			for _, line := range sheet.OverDays() {
				out = append(out, fmt.Sprintf("%s, %s: %s", side.Letter(i), sheet.Run.Code, line))
			}
		}
		if coated > 0 {
			out = append(out, fmt.Sprintf("%s of %s under varnish, primer or paint left out: a coat adds to sizes.", say.Counted(int64(coated), "reading"), side.Letter(i)))
		}
		if doubtful > 0 {
			out = append(out, fmt.Sprintf("%d of %s of %s were taken while their instrument was out of tolerance by its checks: read them again, or say so.", doubtful, say.Counted(int64(all), "size"), side.Letter(i)))
		}
	}
	return out, nil
}

// coarsest is the least difference that single readings of a feature can show, on any side;
// 0 where no instrument was studied.
func (t *table) coarsest(featureID string) (out float64) {
	for _, s := range t.sides {
		for _, print := range s.Of(featureID) {
			for _, specimen := range print {
				for _, r := range specimen.Readings {
					out = max(out, t.gauge[quantity.Or(r.InstrumentID, "")])
				}
			}
		}
	}
	return out
}
