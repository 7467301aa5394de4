package stress

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/core/stats"
	"ojime/internal/core/stress"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
)

// StressSheet is a series with whose turn it is and what it shows. Next is the index of the step
// that is next, nil where all are done or the series was ended. Measures set the set-ups against each other.
type StressSheet struct {
	Series  bench.StressSeries `json:"series"`
	Kind    stress.Kind        `json:"kind"`
	Members []StressMember     `json:"members"`
	Steps   []StressStep       `json:"steps"`
	Next    *int               `json:"next"`
	// Parts are what broke, the commonest first, and names that were given before.
	Parts    []PartBroke     `json:"parts"`
	SetUps   []StressedSetUp `json:"set_ups"`
	Answers  []string        `json:"answers"`
	Advice   []string        `json:"advice"`
	Measured bool            `json:"measured"`
}

// StressMember is a specimen of a series. SetUp is its place among them.
type StressMember struct {
	ID          string   `json:"id"`
	SpecimenID  string   `json:"specimen_id"`
	Code        string   `json:"code"`
	Run         string   `json:"run"`
	RunID       string   `json:"run_id"`
	Piece       string   `json:"piece"`
	SetUp       int      `json:"set_up"`
	Level       *float64 `json:"level"`
	MassG       *float64 `json:"mass_g"`
	WidthMM     *float64 `json:"width_mm"`
	ThicknessMM *float64 `json:"thickness_mm"`
}

// StressStep is one test of a series in its order: Says is what is done, EnergyMJ that of a fall
// where the mass is known.
type StressStep struct {
	Specimen string            `json:"specimen"`
	Code     string            `json:"code"`
	Level    float64           `json:"level"`
	Says     string            `json:"says"`
	Test     *bench.StressTest `json:"test"`
}

// PartBroke is a part that broke, and how often.
type PartBroke struct {
	Part  string `json:"part"`
	Times int    `json:"times"`
}

// StressedSetUp is what one set-up's specimens of a series showed.
type StressedSetUp struct {
	Label     string     `json:"label"`
	Prints    []string   `json:"prints"`
	Specimens int        `json:"specimens"`
	MeanMassG *float64   `json:"mean_mass_g"`
	Cured     string     `json:"cured"`
	Rungs     []RungHeld `json:"rungs"`
	// HalfLevel is where half hold; the levels of FirstFailed and Modulus are means over
	// prints, with their intervals.
	HalfLevel  *float64           `json:"half_level"`
	HalfBeyond bool               `json:"half_beyond"`
	HalfCI     *quantity.Interval `json:"half_ci"`
	ModulusMPA *float64           `json:"modulus_mpa"`
	ModulusCI  *quantity.Interval `json:"modulus_ci"`
	Says       []string           `json:"says"`
}

// RungHeld is how many of how many held at a level, over prints, with their share.
type RungHeld struct {
	Level    float64            `json:"level"`
	Words    string             `json:"words"`
	Held     int64              `json:"held"`
	Of       int64              `json:"of"`
	Share    float64            `json:"share"`
	Prints   int                `json:"prints"`
	CI       *quantity.Interval `json:"ci"`
	EnergyMJ *float64           `json:"energy_mj"`
}

// Series is one series of stress tests.
func (w *Tasks) Series(ctx context.Context, id string) (out StressSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		s, err := t.StressSeries(id)
		if err != nil {
			return err
		}
		out, err = sheetOf(t, s)
		return err
	})
	return out, err
}

func readMembers(t *store.Tx, s bench.StressSeries) ([]member, error) {
	rows, err := t.StressSpecimensOf(s.ID)
	if err != nil {
		return nil, err
	}
	reader := printing.NewReader(t)
	out := make([]member, len(rows))
	for i, row := range rows {
		run, err := t.RunOfSpecimen(row.SpecimenID)
		if err != nil {
			return nil, err
		}
		sheets, err := reader.Sheets(run)
		if err != nil {
			return nil, err
		}
		own := sheets[0].Specimens
		p := own[slices.IndexFunc(own, func(p bench.Specimen) bool { return p.ID == row.SpecimenID })]
		out[i] = member{StressSpecimen: row, specimen: p, sheet: sheets[0], setUp: setUpOf(sheets[0])}
	}
	return out, nil
}

func sheetOf(t *store.Tx, s bench.StressSeries) (StressSheet, error) {
	kind, _ := stress.KindOf(s.Kind)
	out := StressSheet{Series: s, Kind: kind, Steps: []StressStep{}, Measured: kind.Measured, Answers: []string{}, Advice: []string{}}
	members, err := readMembers(t, s)
	if err != nil {
		return out, err
	}
	all, err := t.StressTestsOf(s.ID)
	if err != nil {
		return out, err
	}
	tests := bench.ShownTests(all)
	groups := groupsOf(members)
	out.SetUps, out.Members, out.Parts = setUpsOf(groups), membersOf(members, groups), partsOf(all)
	for n, step := range s.Plan().Steps(planned(members), tests) {
		m := members[step.Specimen]
		row := StressStep{Specimen: m.specimen.ID, Code: m.specimen.Code, Level: step.Level, Says: kind.LevelWords(step.Level), Test: testAt(all, m.specimen.ID, step.Level)}
		if out.Steps = append(out.Steps, row); row.Test == nil && out.Next == nil && s.EndedMS == nil {
			out.Next = &n
		}
	}
	for i, g := range groups {
		if err := g.show(&out.SetUps[i], s, tests); err != nil {
			return out, err
		}
	}
	prints := []int{}
	for _, g := range groups {
		prints = append(prints, len(g.prints()))
	}
	out.Advice = append(out.Advice, stress.Advice(s.Mode, prints)...)
	out.Answers, err = answersOf(s, kind, groups, tests)
	return out, err
}

func testAt(all []bench.StressTest, specimenID string, level float64) *bench.StressTest {
	for _, t := range all {
		if t.TakenBackMS == nil && t.SpecimenID == specimenID && t.Level == level {
			return &t
		}
	}
	return nil
}

func partsOf(all []bench.StressTest) []PartBroke {
	out := []PartBroke{}
	for _, t := range all {
		if t.TakenBackMS != nil || t.Part == "" {
			continue
		}
		if i := slices.IndexFunc(out, func(p PartBroke) bool { return p.Part == t.Part }); i >= 0 {
			out[i].Times++
		} else {
			out = append(out, PartBroke{t.Part, 1})
		}
	}
	slices.SortStableFunc(out, func(a, b PartBroke) int { return b.Times - a.Times })
	return out
}

// group is the specimens of one set-up.
type group struct {
	setUp   string
	members []member
}

func groupsOf(members []member) (out []group) {
	for _, m := range members {
		i := slices.IndexFunc(out, func(g group) bool { return g.setUp == m.setUp })
		if i < 0 {
			i, out = len(out), append(out, group{setUp: m.setUp})
		}
		out[i].members = append(out[i].members, m)
	}
	return out
}

func (g group) prints() (codes []string) {
	for _, m := range g.members {
		if !slices.Contains(codes, m.sheet.Run.Code) {
			codes = append(codes, m.sheet.Run.Code)
		}
	}
	return codes
}

func membersOf(members []member, groups []group) []StressMember {
	out := []StressMember{}
	for _, m := range members {
		piece := ""
		for _, p := range m.sheet.Pieces {
			if p.ID == m.specimen.PieceID {
				piece = p.Name
			}
		}
		out = append(out, StressMember{ID: m.ID, SpecimenID: m.specimen.ID, Code: m.specimen.Code, Run: m.sheet.Run.Code, RunID: m.sheet.Run.ID, Piece: piece,
			SetUp: slices.IndexFunc(groups, func(g group) bool { return g.setUp == m.setUp }), Level: m.Level, MassG: m.MassG, WidthMM: m.WidthMM, ThicknessMM: m.ThicknessMM})
	}
	return out
}

func setUpsOf(groups []group) []StressedSetUp {
	out := []StressedSetUp{}
	for _, g := range groups {
		s := g.members[0].sheet
		of := StressedSetUp{Label: fmt.Sprintf("%s with %s, %s", s.Machine.Name, s.Resin.Name, s.Settings), Prints: g.prints(), Specimens: len(g.members), Rungs: []RungHeld{}, Says: []string{}}
		of.Cured = setup.AgainstLabel([]setup.Treated{{TookS: s.Run.CureS, AskedS: s.Resin.StatedCureS}})
		of.MeanMassG = setup.MeanAll(g.members, func(m member) *float64 { return m.MassG })
		out = append(out, of)
	}
	for i := range out { // what differs in the cure alone is told apart by it
		if s := groups[i].members[0].sheet.Run.CureS; s != nil && slices.ContainsFunc(groups, func(g group) bool {
			return g.setUp != groups[i].setUp && g.members[0].sheet.Run.ProfileID == groups[i].members[0].sheet.Run.ProfileID
		}) {
			out[i].Label += ", cured " + say.Duration(*s)
		}
	}
	return out
}

// show says what a set-up's specimens showed.
func (g group) show(out *StressedSetUp, s bench.StressSeries, tests []stress.Test) error {
	kind, _ := stress.KindOf(s.Kind)
	if kind.Measured {
		return g.showModulus(out, s, tests)
	}
	_, byPrint := s.Plan().PrintsOf(planned(g.members), tests)
	prints := []stress.Print{}
	for _, code := range g.prints() {
		if p, tested := byPrint[code]; tested {
			prints = append(prints, p)
		}
	}
	for _, r := range stress.Rungs(prints) {
		row := RungHeld{Level: r.Level, Words: kind.LevelWords(r.Level), Held: r.Held, Of: r.Of, Share: float64(r.Held) / float64(r.Of), Prints: len(r.Prints)}
		result, err := evidence.Prints(evidence.PrintsInput{A: r.Prints})
		if err != nil {
			return err
		}
		row.CI = &quantity.Interval{1 - result.A.CI[1], 1 - result.A.CI[0]}
		if s.Kind == stress.Drop && out.MeanMassG != nil {
			row.EnergyMJ = quantity.Ptr(stress.EnergyMJ(*out.MeanMassG, r.Level))
		}
		out.Rungs = append(out.Rungs, row)
	}
	if s.Mode == stress.Fresh {
		half := stress.HalfOf(prints)
		if out.HalfLevel, out.HalfBeyond, out.HalfCI = half.Level, half.Beyond, half.CI; half.Level != nil {
			out.Says = append(out.Says, kind.HalfWords(half))
		}
	}
	return nil
}

func (g group) showModulus(out *StressedSetUp, s bench.StressSeries, tests []stress.Test) error {
	side, bent, missing, err := g.moduli(s, tests)
	if err != nil {
		return err
	}
	if bent > 0 {
		out.Says = append(out.Says, fmt.Sprintf("%s left out: the bar bent by more than a tenth of the span, where the formula no longer holds.", say.Counted(int64(bent), "reading is", "readings are")))
	}
	if missing > 0 {
		out.Says = append(out.Says, fmt.Sprintf("Width and thickness of %s are not measured yet, so that their stiffness is not known.", say.Counted(int64(missing), "bar")))
	}
	if len(side.Prints) == 0 {
		return nil
	}
	r, err := evidence.Nested(evidence.NestedInput{A: side})
	if err != nil {
		return err
	}
	out.ModulusMPA, out.ModulusCI = &r.A.MeanMM, r.A.CI
	return nil
}

// moduli are the stiffness of a set-up's bars, by print; bent counts readings that are left
// out, missing bars whose section is not known.
func (g group) moduli(s bench.StressSeries, tests []stress.Test) (side evidence.NestedSide, bent, missing int, err error) {
	for _, code := range g.prints() {
		var print evidence.NestedPrint
		for _, m := range g.members {
			if m.sheet.Run.Code != code {
				continue
			}
			bar, known := m.Bar()
			if !known {
				missing++
				continue
			}
			mpa, far, err := s.Plan().Moduli(m.specimen.ID, bar, tests)
			if err != nil {
				return side, 0, 0, err
			}
			if bent += far; len(mpa) > 0 {
				print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: []float64{stats.Mean(mpa)}})
			}
		}
		if len(print.Specimens) > 0 {
			side.Prints = append(side.Prints, print)
		}
	}
	return side, bent, missing, nil
}

// answersOf set the set-ups of a series against the first.
func answersOf(s bench.StressSeries, kind stress.Kind, groups []group, tests []stress.Test) ([]string, error) {
	if len(groups) < 2 || len(tests) == 0 {
		return []string{}, nil
	}
	var measures []contest.Measure
	pairs, names := contest.Between(len(groups), 0), []string{}
	sides, bars := make([][]stress.Print, len(groups)), make([]evidence.NestedSide, len(groups))
	for i, g := range groups {
		names = append(names, string(rune('A'+i)))
		_, byPrint := s.Plan().PrintsOf(planned(g.members), tests)
		for _, code := range g.prints() {
			if p, tested := byPrint[code]; tested {
				sides[i] = append(sides[i], p)
			}
		}
		var err error
		if kind.Measured {
			if bars[i], _, _, err = g.moduli(s, tests); err != nil {
				return nil, err
			}
		}
	}
	var err error
	if kind.Measured {
		m, e := contest.Levels("stiffness", "Stiffness", "MPa", bars, pairs)
		measures, err = []contest.Measure{m}, e
	} else {
		measures, err = stress.Measures("stress", s.Name, kind, sides, pairs)
	}
	if err != nil {
		return nil, err
	}
	counted, err := contest.Adjust(measures, nil)
	if err != nil {
		return nil, err
	}
	out := []string{}
	for _, m := range measures {
		out = append(out, contest.Sentences(m, names, counted)...)
	}
	return out, nil
}
