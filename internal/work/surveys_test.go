package work_test

import (
	"bytes"
	"errors"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

// filled is a new plate of so many wedges, as the packer lays it.
func (d *desk) filled(copies int64) planning.PlateSheet {
	d.t.Helper()
	draft := planning.PlateDraft{Plate: planning.UsualPlate()}
	draft.Plate.Name, draft.Plate.MachineID, draft.Plate.ProfileID = "Wedges", d.machine.ID, &d.profile.ID
	packed := must(d.w.Planning.PackPlate(d.t.Context(), draft, &planning.Packing{PieceID: d.piece.Piece.ID, Copies: copies, ScalePct: 100}))(d.t)
	draft.Placements = packed.Placements
	return must(d.w.Planning.SavePlate(d.t.Context(), draft))(d.t)
}

func TestAPlateIsLaidWithinWhatWasFoundUsable(t *testing.T) {
	d := newDesk(t)
	before := d.filled(100)
	if before.Usable.Verified != nil || !strings.Contains(before.Usable.Says, "160 × 90 × 160 mm as claimed; nobody looked") {
		t.Errorf("%+v", before.Usable)
	}
	survey := bench.PlateSurvey{LeftMM: 30, BackMM: 5, HeightMM: quantity.Ptr(150.0), Spots: bench.Spots{{XMM: 80, YMM: 40, RadiusMM: 1, What: "dead pixel"}}}
	found := must(d.w.Kit.SurveyPlate(t.Context(), d.machine.ID, survey))(t)
	if u := found.Usable; u.WidthMM != 130 || u.DepthMM != 85 || u.HeightMM != 150 || len(u.Spots) != 1 || !strings.HasPrefix(u.Says, "130 × 85 × 150 mm are usable, looked at on 2026-09-01; 1 spot is kept free") {
		t.Errorf("%+v", u)
	}
	after := d.filled(100)
	if n := len(after.Placed); n >= len(before.Placed) || n == 0 || len(after.Troubles) > 0 {
		t.Errorf("%d copies within what is usable, %d without: %+v", n, len(before.Placed), after.Troubles)
	}
	for _, p := range after.Placed {
		if p.Placement.XMM < 45 {
			t.Errorf("a copy lies at %+v, over the strip of 30 mm at the left", p.Placement)
		}
	}
	// What was laid before is told of where it lies over what is dead.
	codes := map[string]bool{}
	for _, x := range must(d.w.Planning.PlateSheet(t.Context(), before.Plate.ID))(t).Troubles {
		codes[x.Code] = true
	}
	if !codes["off_plate"] || !codes["on_spot"] {
		t.Errorf("%v", codes)
	}

	// Another panel has other pixels: its spots are not known; the edges stay.
	d.clock = d.clock.Add(time.Hour)
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"panel"}}))(t)
	if u := must(d.w.Kit.PlateSurveys(t.Context(), d.machine.ID))(t).Usable; len(u.Spots) != 0 || u.WidthMM != 130 || !strings.Contains(u.Says, "another panel was put in since") {
		t.Errorf("%+v", u)
	}
	// Taken back, it counts no more, and stays.
	back := must(d.w.Kit.TakeSurveyBack(t.Context(), d.machine.ID, found.Surveys[0].ID, "measured on the wrong machine"))(t)
	if back.Usable.Verified != nil || back.Usable.WidthMM != 160 || len(back.Surveys) != 1 || back.Surveys[0].TakenBackWhy == "" {
		t.Errorf("%+v", back)
	}
	if _, err := d.w.Kit.TakeSurveyBack(t.Context(), d.machine.ID, found.Surveys[0].ID, "again"); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("taken back twice: %v", err)
	}
}

func TestASurveyThatCannotBeIsRefused(t *testing.T) {
	d := newDesk(t)
	for field, s := range map[string]bench.PlateSurvey{
		"right_mm":           {LeftMM: 100, RightMM: 60},
		"back_mm":            {FrontMM: 45, BackMM: 45},
		"left_mm":            {LeftMM: -1},
		"height_mm":          {HeightMM: quantity.Ptr(0.0)},
		"spots[0].x_mm":      {Spots: bench.Spots{{XMM: 161, YMM: 1, RadiusMM: 1}}},
		"spots[1].radius_mm": {Spots: bench.Spots{{XMM: 1, YMM: 1, RadiusMM: 1}, {XMM: 1, YMM: 1}}},
		"at_ms":              {AtMS: d.clock.Add(72 * time.Hour).UnixMilli()},
	} {
		_, err := d.w.Kit.SurveyPlate(t.Context(), d.machine.ID, s)
		wantField(t, err, field)
	}
	if _, err := d.w.Kit.SurveyPlate(t.Context(), "nobody", bench.PlateSurvey{}); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("%v", err)
	}
}

func TestSurveysTravelWithTheRecord(t *testing.T) {
	d := newDesk(t)
	must(d.w.Kit.SurveyPlate(t.Context(), d.machine.ID, bench.PlateSurvey{LeftMM: 3, Spots: bench.Spots{{XMM: 10, YMM: 10, RadiusMM: 0.5}}}))(t)
	other := newEmpty(t, d)
	must(other.Record.Import(t.Context(), bytes.NewReader(exported(t, d.w))))(t)
	read := func(tasks *kit.Tasks) kit.PlateSurveys { return must(tasks.PlateSurveys(t.Context(), d.machine.ID))(t) }
	if here, there := read(d.w.Kit), read(other.Kit); !reflect.DeepEqual(here, there) || len(here.Surveys) != 1 {
		t.Errorf("%+v, and there %+v", here, there)
	}
}

func TestTheWriteUpSaysWhatIsUsableBesideWhatIsClaimed(t *testing.T) {
	d := newDesk(t)
	d.runOf(2, nil)
	r := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	if text := string(must(d.w.Publish.WriteUp(t.Context(), r.ID))(t)); strings.Contains(text, "usable") {
		t.Errorf("nobody looked, and the write-up says:\n%s", text)
	}
	must(d.w.Kit.SurveyPlate(t.Context(), d.machine.ID, bench.PlateSurvey{LeftMM: 4, Note: "a grid was printed"}))(t)
	must(d.w.FirstDays.MeasureLight(t.Context(), d.machine.ID, bench.LightGrid{Readings: bench.GridRows{{3, 6.5}, {7.1, 7}}, Unit: "mW/cm²", Meter: "photodiode"}))(t)
	want := "- **Ossik 7**: 156 × 90 × 160 mm are usable, looked at on 2026-09-01. Claimed: 160 × 90 × 160 mm. How it was found: a grid was printed. Light: 50.8 to 120 % of its mean of 5.9 mW/cm² (2 × 2 readings, 2026-09-01, photodiode); weakest at the front left."
	if text := string(must(d.w.Publish.WriteUp(t.Context(), r.ID))(t)); !strings.Contains(text, want) {
		t.Errorf("the write-up lacks %q:\n%s", want, text)
	}
	if cards := must(d.w.Kit.Machines(t.Context()))(t); cards[0].Usable == nil || cards[0].Usable.WidthMM != 156 {
		t.Errorf("%+v", cards[0].Usable)
	}
}

// How many copies a plate holds is kept, and not beyond what it follows from.
func TestTimeAgainstCopiesKnowsOfADeadStripFoundLater(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	held := func() int64 {
		t.Helper()
		plot := must(d.w.Planning.Fill(ctx, d.piece.Piece.ID, 100, []string{d.profile.ID}, 1))(t)
		return plot.Sides[0].Load.Capacity
	}
	before := held()
	if again := held(); again != before || before == 0 {
		t.Errorf("%d copies, then %d", before, again)
	}
	must(d.w.Kit.SurveyPlate(ctx, d.machine.ID, bench.PlateSurvey{LeftMM: 80}))(t)
	strip := held()
	if strip >= before || strip == 0 {
		t.Errorf("%d copies on half a plate, %d on a whole", strip, before)
	}
	must(d.w.Kit.SurveyPlate(ctx, d.machine.ID, bench.PlateSurvey{LeftMM: 80, Spots: bench.Spots{{XMM: 120, YMM: 45, RadiusMM: 20}}}))(t)
	if spotted := held(); spotted >= strip || spotted == 0 {
		t.Errorf("%d copies beside a dead spot, %d without", spotted, strip)
	}
}
