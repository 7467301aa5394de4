package work_test

import (
	"errors"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/experiment"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// sixMotions asks for three lifts by two rests, written as people write them.
var sixMotions = []experiment.FactorLevels{
	{Factor: "motion.lift", Levels: []string{"4 at 60", "6 at 60", "8 mm at 60 mm/min"}},
	{Factor: "motion.wait_lift_s", Levels: []string{"0,5", "10 s"}},
}

func asked(prints int64, change func(*experiment.PlanRequest)) experiment.PlanRequest {
	r := experiment.PlanRequest{Prints: prints, Copies: 2, Seed: quantity.Ptr(int64(4711))}
	if change != nil {
		change(&r)
	}
	return r
}

// adds are the prints that a draft adds to each combination.
func adds(d experiment.PlanDraft) (out []int64) {
	for _, c := range d.Combinations {
		out = append(out, c.Cells[0].Add)
	}
	return out
}

func TestAnExperimentIsPlannedFromNothing(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"motion"} })
	req := asked(4, func(r *experiment.PlanRequest) { r.Levels = sixMotions })
	draft := must(d.w.Experiment.DraftPlan(ctx, review.ID, req))(t)
	if !slices.Equal(adds(draft), []int64{4, 4, 4, 4, 4, 4}) || len(draft.Prints) != 24 {
		t.Fatalf("adds %v, %d prints", adds(draft), len(draft.Prints))
	}
	if c := draft.Combinations[5]; !slices.Equal(c.Levels, []string{"8 mm at 60 mm/min", "10 s"}) || len(c.Changed) != 2 || !strings.Contains(c.Settings, "lift 8 mm at 60 mm/min") {
		t.Errorf("the last combination %+v", c)
	}
	// The settings on record lift 6 mm without a rest; one change each tells their new neighbours.
	if said := strings.Join(append(draft.Tells, draft.Says...), " "); !strings.Contains(said, "These prints tell the effects of lift and rest after lift, each by itself.") || !strings.Contains(said, "drawn with the seed 4711") {
		t.Errorf("says %q", said)
	}
	if m := draft.Machines[0]; m.RunH == nil || *m.RunH <= 0 || *m.AttendedH != 24*25.0/60 || *m.EndH <= *m.RunH || draft.Prints[0].StartH == nil || *draft.Prints[0].StartH < 9 {
		t.Errorf("the machine %+v", m)
	}
	if again := must(d.w.Experiment.DraftPlan(ctx, review.ID, req))(t); !reflect.DeepEqual(again.Prints, draft.Prints) {
		t.Error("the same seed draws another order")
	}
	before := len(must(d.w.Kit.Profiles(ctx))(t))
	sheet := must(d.w.Experiment.KeepPlan(ctx, review.ID, req))(t)
	if sheet.UsualCopies != 0 {
		t.Errorf("plates held %d copies where there was none", sheet.UsualCopies)
	}
	if sheet.Left != 24 || len(sheet.Plans) != 1 || sheet.Plans[0].Plan.Seed != 4711 || len(sheet.Plans[0].Prints) != 24 {
		t.Fatalf("kept %+v", sheet)
	}
	for i, p := range sheet.Plans[0].Prints {
		if p.Name != draft.Prints[i].Words || p.Turn != int64(i+1) || p.State != "planned" {
			t.Errorf("print %d is %+v, drawn %+v", i, p, draft.Prints[i])
		}
	}
	made := must(d.w.Kit.SettingsCards(ctx))(t)[before:]
	if len(made) != 6 {
		t.Fatalf("%d settings were made", len(made))
	}
	for _, c := range made {
		if c.Parent == "" || c.Profile.Basis != "default" || len(c.Changed) == 0 {
			t.Errorf("made %+v", c)
		}
	}
	// Nothing is missing now, and the matrix shows what is planned.
	if more := must(d.w.Experiment.DraftPlan(ctx, review.ID, req))(t); len(more.Prints) != 0 || !strings.HasPrefix(more.Says[0], "Nothing is missing") {
		t.Errorf("%d prints more, %q", len(more.Prints), more.Says)
	}
	m := must(d.w.Experiment.Matrix(ctx, review.ID))(t)
	if len(m.Rows) != 6 || m.Rows[0].Cells[0].Planned != 4 || len(m.Tells) != 0 || len(m.WithPlan) == 0 || len(m.Missing) != 0 {
		t.Errorf("the matrix %+v", m)
	}
}

func TestOnlyWhatIsMissingIsPlanned(t *testing.T) {
	d, _ := motions(t, [6]int{2, 1, 1, 1, 1, 0}, "motion")
	review := must(d.w.Reviews.Reviews(t.Context()))(t)[0]
	draft := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, asked(2, nil)))(t)
	if !slices.Equal(adds(draft), []int64{0, 1, 1, 1, 1, 2}) {
		t.Errorf("adds %v to %+v", adds(draft), draft.Combinations)
	}
	if sheet := must(d.w.Experiment.Plan(t.Context(), review.ID))(t); sheet.UsualCopies != 4 || len(sheet.Plans) != 0 {
		t.Errorf("%+v", sheet)
	}
	used := draft.Combinations[1]
	if len(used.Changed) != 0 || used.Cells[0].Prints != 1 {
		t.Errorf("a combination on record takes %+v", used)
	}
	fewest := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, asked(1, func(r *experiment.PlanRequest) { r.Fewest = true })))(t)
	if !slices.Equal(adds(fewest), []int64{0, 0, 0, 0, 0, 1}) {
		t.Errorf("the fewest are %v", adds(fewest))
	}
	without := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, asked(2, func(r *experiment.PlanRequest) { r.Without = [][]string{draft.Combinations[5].Levels} })))(t)
	if !slices.Equal(adds(without), []int64{0, 1, 1, 1, 1, 0}) {
		t.Errorf("without the last %v", adds(without))
	}
	if said := strings.Join(draft.Says, " "); !strings.Contains(said, "2 prints of each can show no difference in failures, whatever comes out: with one combination against 5 others it takes 5 prints of each") {
		t.Errorf("says %q", said)
	}
	// What decides is a family of its own: a pair that was declared takes no more than a pair.
	setups := must(d.w.Reviews.SetUps(t.Context(), review.ID))(t)
	a, b := setups[0].Ref(), setups[1].Ref()
	must(d.w.Reviews.Declare(t.Context(), review.ID, bench.Declaration{Measure: "failures", Against: &a, Of: &b}))(t)
	declared := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, asked(2, nil)))(t)
	if said := strings.Join(declared.Says, " "); !strings.Contains(said, "whatever comes out: between the two that are declared to decide it takes 4 prints of each") {
		t.Errorf("with a pair declared it says %q", said)
	}
}

func TestAPlanIsPrintedInItsTurn(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"orientation", "cure_s"} })
	req := asked(2, func(r *experiment.PlanRequest) {
		r.Levels = []experiment.FactorLevels{{Factor: "orientation", Levels: []string{"flat", "tilted 30°"}}, {Factor: "cure_s", Levels: []string{"120"}}}
	})
	sheet := must(d.w.Experiment.KeepPlan(ctx, review.ID, req))(t)
	if sheet.Left != 4 {
		t.Fatalf("%+v", sheet)
	}
	next := d.stepSays("/plan/" + sheet.Plans[0].Prints[0].PlateID)
	if !strings.Contains(next, "it is its turn in the plan of "+review.Code+", 4 prints left") {
		t.Errorf("next: %q", next)
	}
	second := sheet.Plans[0].Prints[1]
	plate := must(d.w.Planning.PlateSheet(ctx, second.PlateID))(t)
	run := must(d.w.Printing.Prepare(ctx, printing.Preparation{MachineID: d.machine.ID, PlateID: &second.PlateID, ProfileID: *plate.Plate.ProfileID}))(t)
	if run.Run.Orientation == nil || *run.Run.Orientation != *plate.Plate.Orientation || *run.Run.CureS != 120 || run.Run.WashS != nil {
		t.Errorf("the print is prepared as %v, cured %v", run.Run.Orientation, run.Run.CureS)
	}
	sheet = must(d.w.Experiment.Plan(ctx, review.ID))(t)
	if got := sheet.Plans[0].Prints[1]; got.State != "under_way" || !got.Early || sheet.Left != 3 || sheet.Plans[0].Prints[0].Early {
		t.Errorf("%+v", sheet.Plans[0].Prints)
	}
	if _, err := d.w.Experiment.WithdrawPlan(ctx, review.ID, " "); err == nil {
		t.Error("a plan is withdrawn without a word")
	}
	d.clock = d.clock.Add(time.Hour)
	sheet = must(d.w.Experiment.WithdrawPlan(ctx, review.ID, "the resin is out"))(t)
	if sheet.Left != 0 || sheet.Plans[0].Prints[0].State != "withdrawn" || sheet.Plans[0].Prints[0].Why != "the resin is out" || sheet.Plans[0].Prints[1].State != "under_way" {
		t.Errorf("%+v", sheet.Plans[0].Prints)
	}
	if _, err := d.w.Experiment.WithdrawPlan(ctx, review.ID, "again"); err == nil {
		t.Error("nothing is withdrawn twice")
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, words := range []string{"### How the prints were planned", "4 prints were planned, so that there would be 2 of each combination: 1 printed, of these " + run.Run.Code + " before its turn, 3 withdrawn (the resin is out).", "drawn with the seed 4711"} {
		if !strings.Contains(text, words) {
			t.Errorf("the write-up does not say %q", words)
		}
	}
	if rows := d.table(review.ID, "runs"); len(rows) != 1 || rows[0]["plan_turn"] != "2" {
		t.Errorf("the table says %v", rows)
	}
	first := must(d.w.Planning.PlateSheet(ctx, sheet.Plans[0].Prints[0].PlateID))(t)
	if _, err := d.w.Printing.Prepare(ctx, printing.Preparation{MachineID: d.machine.ID, PlateID: &first.Plate.ID, ProfileID: *first.Plate.ProfileID}); err == nil || !strings.Contains(err.Error(), "was withdrawn (the resin is out)") {
		t.Errorf("a withdrawn plate is printed: %v", err)
	}
	back := must(d.w.Planning.WithdrawPlate(ctx, first.Plate.ID, first.Plate.Version, ""))(t)
	if back.Plate.ArchivedMS != nil || must(d.w.Experiment.Plan(ctx, review.ID))(t).Left != 1 {
		t.Errorf("it is not back: %+v", back.Plate)
	}
	// A form sent back neither takes a plate out of its plan nor brings it back.
	back.Plate.Name, back.Plate.ReviewPlanID, back.Plate.PlanTurn = "By another name", nil, nil
	saved := must(d.w.Planning.SavePlate(ctx, planning.PlateDraft{Plate: back.Plate, Placements: d.placementsOf(back)}))(t)
	if saved.Plate.ReviewPlanID == nil || saved.Plate.PlanTurn == nil || saved.Plate.Name != "By another name" {
		t.Errorf("saved %+v", saved.Plate)
	}
	if _, err := d.w.Planning.WithdrawPlate(ctx, second.PlateID, plate.Plate.Version, "printed"); err == nil {
		t.Error("a plate that is printed is withdrawn")
	}
}

func TestMachinesAndResinsArePlannedFairly(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	small := d.machine
	small.ID, small.Code, small.Version, small.Name, small.WidthMM, small.DepthMM = "", "", 0, "Ossik 3", 80, 60
	small = must(d.w.Kit.SaveMachine(ctx, small))(t).Machine
	ash := d.resin
	ash.ID, ash.Code, ash.Version, ash.Name = "", "", 0, "Ash"
	ash = must(d.w.Kit.SaveResin(ctx, ash))(t).Resin
	for _, pair := range [][2]string{{d.machine.ID, ash.ID}, {small.ID, d.resin.ID}} {
		d.settings(func(p *bench.Profile) { p.MachineID, p.ResinID, p.Basis = pair[0], pair[1], "default" })
	}
	review := d.review(func(r *bench.Review) {
		r.UnderTest, r.MachineIDs, r.ResinIDs = bench.IDs{"machine", "resin"}, bench.IDs{d.machine.ID, small.ID}, bench.IDs{d.resin.ID, ash.ID}
	})
	req := asked(2, nil)
	draft := must(d.w.Experiment.DraftPlan(ctx, review.ID, req))(t)
	if !slices.Equal(adds(draft), []int64{2, 2, 2, 0}) || !strings.Contains(draft.Combinations[3].Trouble, "There are no settings for Ash with Ossik 3") {
		t.Fatalf("adds %v, %q", adds(draft), draft.Combinations[3].Trouble)
	}
	// Two resins in two visits: forward and back, so two changes on the one machine.
	if draft.VatChanges != 2 || !strings.Contains(strings.Join(draft.Says, " "), "The resin is changed twice, about 40 min in all") {
		t.Errorf("%d changes, %q", draft.VatChanges, draft.Says)
	}
	sheet := must(d.w.Experiment.KeepPlan(ctx, review.ID, req))(t)
	sides := map[string][][2]float64{}
	for _, p := range sheet.Plans[0].Prints {
		plate := must(d.w.Planning.PlateSheet(ctx, p.PlateID))(t)
		if len(plate.Troubles) > 0 {
			t.Errorf("%s lies wrong: %+v", p.Name, plate.Troubles)
		}
		first := plate.Placed[0].Placement
		sides[p.Name] = append(sides[p.Name], [2]float64{first.XMM - plate.Machine.WidthMM/2, first.YMM - plate.Machine.DepthMM/2})
	}
	of := func(machine string) [][2]float64 { return sides[machine+", Plain Grey"] }
	near := func(a, b [2]float64) bool { return quantity.Equal(a[0], b[0]) && quantity.Equal(a[1], b[1]) }
	turned := func(a [2]float64) [2]float64 { return [2]float64{-a[0], -a[1]} }
	big, tiny := of("Ossik 7"), of("Ossik 3")
	if len(big) != 2 || len(tiny) != 2 || !near(big[0], turned(big[1])) || !near(big[0], turned(tiny[0])) || !near(big[1], turned(tiny[1])) {
		t.Errorf("places from the middle: %v and %v", big, tiny)
	}
}

func TestAPlanSaysWhatItCannotDo(t *testing.T) {
	d, _ := motions(t, [6]int{1, 0, 1, 0, 0, 0}, "motion")
	ctx := t.Context()
	review := must(d.w.Reviews.Reviews(ctx))(t)[0]
	ash := d.resin
	ash.ID, ash.Code, ash.Version, ash.Name = "", "", 0, "Ash"
	ash = must(d.w.Kit.SaveResin(ctx, ash))(t).Resin
	for name, c := range map[string]struct {
		review  func(*bench.Review)
		request func(*experiment.PlanRequest)
		field   string
	}{
		"two resins, neither tested": {review: func(r *bench.Review) { r.ResinIDs = append(r.ResinIDs, ash.ID) }, field: "under_test"},
		"nothing tested":             {review: func(r *bench.Review) { r.UnderTest = nil }, field: "under_test"},
		"no machine":                 {review: func(r *bench.Review) { r.MachineIDs = nil }, field: "machine_ids"},
		"no piece":                   {review: func(r *bench.Review) { r.PieceIDs = nil }, field: "piece_ids"},
		"no level":                   {review: func(r *bench.Review) { r.UnderTest = bench.IDs{"supports"} }, field: "levels"},
		"no lift":                    {request: func(r *experiment.PlanRequest) { r.Levels = sixMotions[:1:1]; r.Levels[0].Levels[0] = "slowly" }, field: "levels[0].levels[0]"},
		"another factor":             {request: func(r *experiment.PlanRequest) { r.Levels = []experiment.FactorLevels{{Factor: "resin"}} }, field: "levels[0].factor"},
		"too many copies":            {request: func(r *experiment.PlanRequest) { r.Copies = 100 }, field: "copies"},
	} {
		r := review
		r.ID, r.Code, r.Version = "", "", 0
		if c.review != nil {
			c.review(&r)
		}
		r = must(d.w.Reviews.SaveReview(ctx, r))(t)
		req := asked(2, func(q *experiment.PlanRequest) {
			if c.request != nil {
				c.request(q)
			}
		})
		if _, err := d.w.Experiment.DraftPlan(ctx, r.ID, req); err == nil || !strings.HasPrefix(err.Error(), c.field) {
			t.Errorf("%s: %v", name, err)
		}
		sixMotions[0].Levels[0] = "4 at 60"
	}
	// What is fitted to a machine is changed by hand before its prints are planned.
	fitted := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"film_type"} })
	must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.Add(-time.Hour).UnixMilli(), Kinds: bench.IDs{"film"}, Changes: bench.Changes{{What: "film type", To: "clear film"}}}))(t)
	draft := must(d.w.Experiment.DraftPlan(ctx, fitted.ID, asked(2, nil)))(t)
	now, before := 0, 0
	for _, c := range draft.Combinations {
		switch {
		case strings.Contains(c.Trouble, "fit or change it at the machine"):
			before++
		case c.Trouble == "":
			now++
		}
	}
	if before != 1 || now > 1 {
		t.Errorf("%+v", draft.Combinations)
	}
}

// Without settings nothing can be planned, and nothing is said to be complete.
func TestAPlanWithoutSettingsSaysWhatStandsInTheWay(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"cure_s"} })
	req := asked(2, func(r *experiment.PlanRequest) {
		r.Levels = []experiment.FactorLevels{{Factor: "cure_s", Levels: []string{"60", "120"}}}
	})
	all := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, req))(t)
	req.Without = [][]string{all.Combinations[0].Levels, all.Combinations[1].Levels}
	if none := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, req))(t); len(none.Prints) != 0 || !strings.HasPrefix(none.Says[0], "Nothing is left to print") {
		t.Errorf("all unticked: %q", none.Says)
	}
	must(d.w.Kit.ArchiveProfile(t.Context(), d.profile.ID, d.profile.Version, "worn out"))(t)
	draft := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, req))(t)
	if len(draft.Prints) != 0 || len(draft.Tells) != 0 || len(draft.Says) != 1 || !strings.HasPrefix(draft.Says[0], "No combination can be planned yet") || !strings.HasPrefix(draft.Combinations[0].Trouble, "There are no settings for") {
		t.Errorf("%q, %q", draft.Says, draft.Combinations[0].Trouble)
	}
}

// A finer layer with the exposure of the coarse one is said to be borrowed light.
func TestAnotherLayerHeightNeedsItsOwnExposure(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"layer_um"} })
	req := asked(1, func(r *experiment.PlanRequest) {
		r.Levels = []experiment.FactorLevels{{Factor: "layer_um", Levels: []string{"50", "30"}}}
	})
	draft := must(d.w.Experiment.DraftPlan(t.Context(), review.ID, req))(t)
	if c := draft.Combinations[1]; len(c.Notes) != 1 || !strings.Contains(c.Notes[0], "Its exposure is that of 50 µm: dial in 30 µm first.") {
		t.Errorf("%+v", c)
	}
	fine := d.settings(func(p *bench.Profile) { p.LayerUM, p.ExposureS = 30, quantity.Ptr(1.6) })
	draft = must(d.w.Experiment.DraftPlan(t.Context(), review.ID, req))(t)
	if c := draft.Combinations[1]; len(c.Notes) != 0 || !strings.HasPrefix(c.Settings, fine.Code) {
		t.Errorf("with settings of its own: %+v", c)
	}
	if !strings.Contains(strings.Join(draft.Says, " "), "1 print of each can show no difference") {
		t.Errorf("says %q", draft.Says)
	}
}

// A plate that was withdrawn is not recorded as printed, but for a print that had begun before.
func TestAWithdrawnPlateIsRecordedAsItWasPrinted(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	plate := d.laid(2)
	d.clock = d.clock.Add(time.Hour)
	must(d.w.Planning.WithdrawPlate(ctx, plate.Plate.ID, plate.Plate.Version, "another order"))(t)
	r := must(d.w.Printing.DraftRun(ctx, d.machine.ID))(t).Run
	r.ResinID, r.ProfileID, r.PlateID = d.resin.ID, d.profile.ID, &plate.Plate.ID
	r.StartedMS = d.clock.UnixMilli()
	if _, err := d.w.Printing.RecordRun(ctx, printing.Recording{Run: r}); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "another order") {
		t.Errorf("begun after: %v", err)
	}
	r.StartedMS = d.clock.UnixMilli() - 30*60_000
	if sheet := must(d.w.Printing.RecordRun(ctx, printing.Recording{Run: r}))(t); len(sheet.Specimens) != 2 {
		t.Errorf("begun before: %+v", sheet.Specimens)
	}
}
