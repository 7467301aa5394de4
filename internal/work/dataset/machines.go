package dataset

import (
	"slices"
	"strconv"

	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/reviews"
)

// Lived is what living with a machine is like, under its name.
type Lived struct {
	Machine string
	firstdays.Living
	Remarks firstdays.Remarks
}

// livingOf is what living with the machines of a review is like, in the order of its set-ups.
func livingOf(t *store.Tx, setups []reviews.SetUp) (out []Lived, err error) {
	var seen []string
	for _, s := range setups {
		if s.MachineID == "" || slices.Contains(seen, s.MachineID) {
			continue
		}
		seen = append(seen, s.MachineID)
		of, err := firstdays.LivingOf(t, s.MachineID)
		if err != nil {
			return nil, err
		}
		remarks, err := firstdays.RemarksOf(t, s.MachineID)
		if err != nil {
			return nil, err
		}
		out = append(out, Lived{s.Machine, of, remarks})
	}
	return out, nil
}

// machineRatingRows are the ratings of the machines of a review, also those taken back.
func machineRatingRows(of Source) [][]string {
	out := [][]string{{"machine", "scale", "score", "anchor", "rater", "conditions", "note", "rated", "counts"}}
	for _, m := range of.Living {
		for _, r := range slices.Backward(m.Ratings) {
			counts, name, anchor := "yes", "", ""
			if i := slices.IndexFunc(m.Scales, func(on firstdays.LivedOn) bool { return on.Scale.Key == r.Scale }); i >= 0 {
				name, anchor = m.Scales[i].Scale.Name, m.Scales[i].Scale.Anchors[r.Score]
			}
			if r.TakenBackMS != nil {
				counts = "taken back: " + r.TakenBackWhy
			}
			out = append(out, []string{m.Machine, name, whole(&r.Score), anchor, r.Rater, r.Conditions, r.Note, say.Instant(r.AtMS), counts})
		}
	}
	return out
}

// remarkRows are the remarks on machines, also those taken back.
func remarkRows(of Source) [][]string {
	out := [][]string{{"machine", "at", "kind", "about", "what", "often", "weight_of_5", "for_whom", "rater", "taken_back", "taken_back_why"}}
	for _, m := range of.Living {
		for _, r := range m.Remarks.Remarks {
			back := ""
			if r.TakenBackMS != nil {
				back = say.Instant(*r.TakenBackMS)
			}
			out = append(out, []string{m.Machine, say.Instant(r.AtMS), r.Kind, r.About, r.What, r.Often, strconv.FormatInt(r.Weight, 10), r.ForWhom, r.Rater, back, r.TakenBackWhy})
		}
	}
	return out
}
