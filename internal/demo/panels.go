package demo

import (
	"fmt"
	"slices"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/panels"
)

// judgedBlind asks two blind panels about the panel and the projector: one of primed lanterns, coded by an
// assistant and closed, and one of photographs that still waits for votes.
func (d *scene) judgedBlind(reviewID string) error {
	d.clock = d.clock.Add(20 * time.Hour)
	closed, err := d.lanternsAsked(reviewID)
	if err != nil {
		return err
	}
	behind := map[string]bool{} // codes of the masked machine, as the assistant knows them
	for _, item := range closed.ToCode {
		told, err := d.work.Panels.Code(d.ctx, closed.Panel.ID, item.Code, panels.Coder{Name: "Oskil", As: "assistant"})
		if err != nil {
			return err
		}
		behind[told.Code] = item.Arm == 0
	}
	if closed, err = d.work.Panels.Seal(d.ctx, closed.Panel.ID); err != nil {
		return err
	}
	told := 0 // how often two of different machines were shown
	for _, b := range closed.Ballots {
		d.clock = d.clock.Add(6 * time.Minute)
		if err := d.cast(b, "table", func(codes []string) bench.BallotAnswer { return d.crisper(codes, behind, &told) }); err != nil {
			return err
		}
	}
	if _, err := d.work.Panels.Close(d.ctx, closed.Panel.ID, panels.Closing{}); err != nil {
		return err
	}
	open, err := d.photographsAsked(reviewID)
	if err != nil {
		return err
	}
	for _, b := range open.Ballots[:3] {
		d.clock = d.clock.Add(time.Hour)
		if err := d.cast(b, "link", func(codes []string) bench.BallotAnswer {
			return bench.BallotAnswer{Place: int64(d.chance.IntN(len(codes))), Sure: quantity.Ptr(int64(d.chance.IntN(3)))}
		}); err != nil {
			return err
		}
	}
	return nil
}

// crisper is what a judge says of two lanterns: mostly the masked machine's. Of sixteen answers two see no difference and
// one the other way, whichever they fall to, so that the made-up panel shows the same each time that it is made.
func (d *scene) crisper(codes []string, masked map[string]bool, told *int) bench.BallotAnswer {
	sure := quantity.Ptr(int64(1 + d.chance.IntN(4)))
	at := slices.IndexFunc(codes, func(c string) bool { return masked[c] })
	if masked[codes[0]] == masked[codes[1]] {
		if d.chance.Float64() < 0.7 {
			return bench.BallotAnswer{Place: -1, Sure: sure}
		}
		return bench.BallotAnswer{Place: int64(d.chance.IntN(2)), Sure: quantity.Ptr(int64(0))}
	}
	*told++
	switch *told % 16 {
	case 5, 12:
		return bench.BallotAnswer{Place: -1, Sure: sure}
	case 9:
		return bench.BallotAnswer{Place: int64(1 - at), Sure: sure}
	}
	return bench.BallotAnswer{Place: int64(at), Sure: sure}
}

// cast fills a ballot in and casts it.
func (d *scene) cast(b panels.BallotLine, way string, answer func([]string) bench.BallotAnswer) error {
	ballot, err := d.work.Panels.Ballot(d.ctx, b.Token)
	if err != nil {
		return err
	}
	v := panels.Vote{Way: way, Knew: quantity.Ptr(b.Judge == 4)}
	if *v.Knew {
		v.KnewBy = "finer lines on the bars of one"
	}
	for _, codes := range ballot.Trials {
		v.Answers = append(v.Answers, answer(codes))
	}
	_, err = d.work.Panels.Cast(d.ctx, b.Token, v)
	return err
}

func (d *scene) lanternsAsked(reviewID string) (panels.PanelSheet, error) {
	p := bench.Panel{Kind: "preference", Shows: "specimens", Question: "Which lantern has the crisper bars?", LooksAt: "the bars of the cage", Stage: "primed", Station: "in_hand", Light: "a daylight lamp", Judges: 8, Repeats: 1, Same: 1}
	choices, err := d.work.Panels.Choices(d.ctx, reviewID)
	if err != nil {
		return panels.PanelSheet{}, err
	}
	for _, machine := range []string{dunnock, wheatear} {
		arm, err := d.arm(choices, machine, "Cage lantern")
		if err != nil {
			return panels.PanelSheet{}, err
		}
		out := bench.PanelArm{ProfileID: arm.ProfileID, Since: arm.Since, PieceID: arm.PieceID}
		for _, s := range arm.Specimens[:min(4, len(arm.Specimens))] {
			out.ItemIDs = append(out.ItemIDs, s.ID)
		}
		p.Arms = append(p.Arms, out)
	}
	return d.work.Panels.Make(d.ctx, reviewID, p)
}

func (d *scene) photographsAsked(reviewID string) (panels.PanelSheet, error) {
	p := bench.Panel{Kind: "odd_one_out", Shows: "photographs", Question: "Which of the three was printed on another machine?", LooksAt: "the whole lantern", Stage: "primed", Station: "in_hand", Light: "a daylight lamp from the left", Judges: 6}
	choices, err := d.work.Panels.Choices(d.ctx, reviewID)
	if err != nil {
		return panels.PanelSheet{}, err
	}
	for _, machine := range []string{dunnock, wheatear} {
		arm, err := d.arm(choices, machine, "Cage lantern")
		if err != nil {
			return panels.PanelSheet{}, err
		}
		out := bench.PanelArm{ProfileID: arm.ProfileID, Since: arm.Since, PieceID: arm.PieceID}
		for _, photo := range arm.Photographs {
			if photo.Stage == "primed" && photo.Station == "in hand" && len(out.ItemIDs) < 3 {
				out.ItemIDs = append(out.ItemIDs, photo.ID)
			}
		}
		p.Arms = append(p.Arms, out)
	}
	made, err := d.work.Panels.Make(d.ctx, reviewID, p)
	if err != nil {
		return made, err
	}
	return d.work.Panels.Seal(d.ctx, made.Panel.ID)
}

// arm is what can be shown of a piece from a machine, in blue.
func (d *scene) arm(of panels.Choices, machine, piece string) (panels.ArmChoice, error) {
	profile := d.profiles[machine+"Heron Blue"]
	i := slices.IndexFunc(of.Arms, func(a panels.ArmChoice) bool { return a.ProfileID == profile.ID && a.Piece == piece })
	if i < 0 {
		return panels.ArmChoice{}, fmt.Errorf("no %s of %s to show", piece, machine)
	}
	return of.Arms[i], nil
}
