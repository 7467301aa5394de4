package stress

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Request is a series with the codes of its specimens; the code of a print stands for all its
// copies that came off whole enough.
type Request struct {
	Series bench.StressSeries `json:"series"`
	Codes  []string           `json:"codes" maxItems:"200"`
}

// Draft is a series before it begins: who is in it, who is not and why, and what so many
// prints can show.
type Draft struct {
	SetUps  []StressedSetUp `json:"set_ups"`
	Members []StressMember  `json:"members"`
	Refused []Refusal       `json:"refused"`
	// LeftOut are copies of prints that were named whole and cannot be stressed.
	LeftOut []Refusal `json:"left_out"`
	Advice  []string  `json:"advice"`
}

// Refusal is a code that cannot be in a series, with the reason.
type Refusal struct {
	Code string `json:"code"`
	Why  string `json:"why"`
}

// Kinds are the kinds of stress with what their levels and classes of damage mean.
func (w *Tasks) Kinds() []stress.Kind { return stress.Kinds }

// Draft says what a series would hold, before it begins.
func (w *Tasks) Draft(ctx context.Context, req Request) (out Draft, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		g, err := gather(t, req)
		if err != nil {
			return err
		}
		out, err = g.draft(req.Series.Mode)
		return err
	})
	return out, err
}

// Begin begins a series: fresh specimens are dealt their levels, and the order is drawn.
func (w *Tasks) Begin(ctx context.Context, req Request) (StressSheet, error) {
	seed, err := w.NewSeed()
	if err != nil {
		return StressSheet{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (StressSheet, error) {
		s := req.Series
		s.Seed = seed
		s.Plain()
		if err := s.Check(); err != nil {
			return StressSheet{}, task.WithPrefix("series.", err)
		}
		g, err := gather(t, req)
		if err != nil {
			return StressSheet{}, err
		}
		switch {
		case len(g.refused) > 0:
			return StressSheet{}, quantity.Errorf("codes", "hold %s: %s", g.refused[0].Code, g.refused[0].Why)
		case len(g.members) == 0:
			return StressSheet{}, quantity.Errorf("codes", "name no specimen; give the codes of specimens or of prints")
		case len(g.members) > stress.MostSpecimens:
			return StressSheet{}, quantity.Errorf("codes", "name %d specimens; a series has at most %d", len(g.members), stress.MostSpecimens)
		}
		number, err := t.NextNumber("stress_series")
		if err != nil {
			return StressSheet{}, err
		}
		if s.ID, err = w.NewID(); err != nil {
			return StressSheet{}, err
		}
		s.Code, s.CreatedMS = bench.Code("stress_series", number), w.NowMS()
		if err := t.SaveStressSeries(s); err != nil {
			return StressSheet{}, err
		}
		if err := w.saveMembers(t, s, g.members); err != nil {
			return StressSheet{}, err
		}
		return sheetOf(t, s)
	})
}

func (w *Tasks) saveMembers(t *store.Tx, s bench.StressSeries, members []member) error {
	var levels []float64
	if s.Mode == stress.Fresh {
		levels = stress.Deal(planned(members), s.Levels, uint64(s.Seed))
	}
	for i, m := range members {
		id, err := w.NewID()
		if err != nil {
			return err
		}
		v := bench.StressSpecimen{ID: id, StressSeriesID: s.ID, SpecimenID: m.specimen.ID, Position: int64(i)}
		if levels != nil {
			v.Level = &levels[i]
		}
		if err := t.SaveStressSpecimen(v); err != nil {
			return err
		}
	}
	return nil
}

// member is a specimen of a series with the print that it is of.
type member struct {
	bench.StressSpecimen
	specimen bench.Specimen
	sheet    *printing.RunSheet
	setUp    string
}

func planned(members []member) (out []stress.Specimen) {
	for _, m := range members {
		out = append(out, stress.Specimen{ID: m.specimen.ID, Print: m.sheet.Run.Code, SetUp: m.setUp, Level: m.Level})
	}
	return out
}

// gathering finds the specimens that codes name.
type gathering struct {
	t       *store.Tx
	reader  *printing.Reader
	series  bench.StressSeries
	runs    map[string]string
	members []member
	refused []Refusal
	leftOut []Refusal
}

func gather(t *store.Tx, req Request) (g gathering, err error) {
	g = gathering{t: t, reader: printing.NewReader(t), series: req.Series, runs: map[string]string{}}
	runs, err := t.Runs()
	if err != nil {
		return g, err
	}
	for _, r := range runs {
		g.runs[r.Code] = r.ID
	}
	for _, code := range req.Codes {
		if code = strings.ToUpper(strings.TrimSpace(code)); code == "" {
			continue
		}
		if err := g.take(code); err != nil {
			return g, err
		}
	}
	return g, nil
}

// take adds the specimen of a code, or the copies of a print that can be stressed.
func (g *gathering) take(code string) error {
	if id, isPrint := g.runs[code]; isPrint {
		sheet, err := g.sheet(id)
		if err != nil {
			return err
		}
		return g.takeAll(sheet)
	}
	p, err := g.t.SpecimenByCode(code)
	if err != nil {
		g.refused = append(g.refused, Refusal{code, "no specimen or print on record has this code"})
		return nil
	}
	sheet, err := g.sheet(p.RunID)
	if err != nil {
		return err
	}
	p = sheet.Specimens[slices.IndexFunc(sheet.Specimens, func(o bench.Specimen) bool { return o.ID == p.ID })]
	why, err := g.against(sheet, p)
	if err != nil {
		return err
	}
	if why != "" {
		g.refused = append(g.refused, Refusal{code, why})
		return nil
	}
	g.add(sheet, p)
	return nil
}

// takeAll adds the copies of a print that can be stressed; one without any is refused.
func (g *gathering) takeAll(sheet *printing.RunSheet) error {
	why, before := "", len(g.leftOut)
	for _, p := range sheet.Specimens {
		var err error
		if why, err = g.against(sheet, p); err != nil {
			return err
		}
		if why == "" {
			g.add(sheet, p)
		} else {
			g.leftOut = append(g.leftOut, Refusal{p.Code, why})
		}
	}
	if len(g.leftOut)-before == len(sheet.Specimens) {
		g.leftOut = g.leftOut[:before]
		g.refused = append(g.refused, Refusal{sheet.Run.Code, "none of its copies can be stressed: " + why})
	}
	return nil
}

func (g *gathering) sheet(runID string) (*printing.RunSheet, error) {
	sheets, err := g.reader.Sheets(runID)
	if err != nil {
		return nil, err
	}
	return sheets[0], nil
}

func (g *gathering) add(sheet *printing.RunSheet, p bench.Specimen) {
	if !slices.ContainsFunc(g.members, func(m member) bool { return m.specimen.ID == p.ID }) {
		g.members = append(g.members, member{specimen: p, sheet: sheet, setUp: setUpOf(sheet)})
	}
}

// against is why a specimen cannot be stressed; empty where it can.
func (g *gathering) against(sheet *printing.RunSheet, p bench.Specimen) (string, error) {
	switch {
	case p.SetAside():
		return "it was lost or is set aside", nil
	case !p.Judged():
		return "what became of it is not judged yet; judge the print first", nil
	}
	for _, s := range sheet.Stressed {
		if s.SpecimenID != p.ID || len(bench.ShownTests(s.Tests)) == 0 {
			continue
		}
		kind, _ := stress.KindOf(s.Series.Kind)
		switch {
		case !kind.Measured && g.series.Mode == stress.Fresh:
			return fmt.Sprintf("it was stressed in %s and is fresh no more", s.Series.Code), nil
		case broken(s):
			return fmt.Sprintf("it failed in %s", s.Series.Code), nil
		}
	}
	return "", nil
}

func broken(s bench.Stressed) bool {
	return slices.ContainsFunc(bench.ShownTests(s.Tests), s.Series.Plan().Failed)
}

func setUpOf(sheet *printing.RunSheet) string {
	cured := ""
	if sheet.Run.CureS != nil {
		cured = fmt.Sprint(*sheet.Run.CureS)
	}
	return sheet.Run.ProfileID + " " + cured
}

func (g gathering) draft(mode string) (Draft, error) {
	out := Draft{Refused: append([]Refusal{}, g.refused...), LeftOut: append([]Refusal{}, g.leftOut...)}
	groups := groupsOf(g.members)
	out.SetUps, out.Members = setUpsOf(groups), membersOf(g.members, groups)
	prints := []int{}
	for _, of := range groups {
		prints = append(prints, len(of.prints()))
	}
	out.Advice = stress.Advice(mode, prints)
	if out.Advice == nil {
		out.Advice = []string{}
	}
	return out, nil
}
