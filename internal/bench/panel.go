package bench

import (
	"database/sql/driver"
	"errors"
	"slices"
	"strings"

	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
)

// What judges of a panel are shown.
const (
	ShowsSpecimens   = "specimens"
	ShowsPhotographs = "photographs"
)

// Who put the codes on what is judged.
const (
	CodedByReviewer  = "reviewer"  // knows, and cannot vote
	CodedByAssistant = "assistant" // knows, and hands nothing out: the panel is double-blind
	CodedByProgram   = "program"   // photographs: nobody knows
)

// How a ballot came in.
const (
	CastAtTable = "table" // on the reviewer's own device, handed round
	CastByLink  = "link"  // on the judge's own, by a link that opens it once
	CastByFile  = "file"  // by a file that a page of pictures made
)

// Panel asks judges a question about set-ups without telling them which is which. Judges is how many ballots
// there are, fixed when it is made; Repeats and Same are of each ballot. KeySHA256 is the hash of the key, by
// which anybody can see later that it was not changed. Coded are the items that have their code on. Tells are
// what may tell the arms apart beside what is asked about, as it was said when the panel was sealed. EarlyWhy
// is why it was opened before all had voted; it stays for good.
type Panel struct {
	ID            string    `json:"id" required:"false" readOnly:"true"`
	Code          string    `json:"code" required:"false" readOnly:"true"`
	Version       int64     `json:"version" required:"false"`
	CreatedMS     int64     `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID      string    `json:"review_id" required:"false" readOnly:"true"`
	Kind          string    `json:"kind" enum:"preference,odd_one_out,ranking,matching"`
	Shows         string    `json:"shows" enum:"specimens,photographs"`
	Question      string    `json:"question" minLength:"1" maxLength:"200"`
	LooksAt       string    `json:"looks_at" required:"false" maxLength:"120"`
	Stage         string    `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	Station       string    `json:"station" enum:"table,arms_length,in_hand,loupe"`
	Magnification *float64  `json:"magnification" required:"false" exclusiveMinimum:"1"`
	Light         string    `json:"light" minLength:"1"`
	Judges        int64     `json:"judges" minimum:"1" maximum:"200"`
	Repeats       int64     `json:"repeats" required:"false" minimum:"0"`
	Same          int64     `json:"same" required:"false" minimum:"0"`
	Arms          PanelArms `json:"arms" maxItems:"12"`
	Coder         string    `json:"coder" required:"false" readOnly:"true"`
	CodedBy       string    `json:"coded_by" required:"false" readOnly:"true" enum:",reviewer,assistant,program"`
	Coded         IDs       `json:"coded" required:"false" readOnly:"true"`
	Tells         Notes     `json:"tells" required:"false" readOnly:"true"`
	KeySHA256     string    `json:"key_sha256" required:"false" readOnly:"true"`
	SealedMS      *int64    `json:"sealed_ms" required:"false" readOnly:"true"`
	ClosedMS      *int64    `json:"closed_ms" required:"false" readOnly:"true"`
	EarlyWhy      string    `json:"early_why" required:"false" readOnly:"true"`
	TakenBackMS   *int64    `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy  string    `json:"taken_back_why" required:"false" readOnly:"true"`
}

// PanelArm is one of the set-ups of a panel, by the name that it had when the panel was made, with the
// specimens or photographs of it that are shown.
type PanelArm struct {
	ProfileID string `json:"profile_id" minLength:"1"`
	Since     string `json:"since" required:"false"`
	PieceID   string `json:"piece_id" minLength:"1"`
	Label     string `json:"label" required:"false"`
	ItemIDs   IDs    `json:"item_ids" minItems:"1" maxItems:"100"`
}

// PanelArms are the arms of a panel in their order.
type PanelArms []PanelArm

// Value stores the arms as JSON text.
func (l PanelArms) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *PanelArms) Scan(from any) error { return scanList(from, l) }

// Ready reports a panel that judges can vote in; Closed one whose key is told.
func (p Panel) Ready() bool { return p.SealedMS != nil && p.ClosedMS == nil && p.TakenBackMS == nil }

// Closed reports a panel whose key is told.
func (p Panel) Closed() bool { return p.ClosedMS != nil }

// Items are all that are shown, arm by arm.
func (p Panel) Items() (out []string) {
	for _, a := range p.Arms {
		out = append(out, a.ItemIDs...)
	}
	return out
}

// Input is the panel as it is dealt by a seed.
func (p Panel) Input(seed int64) blind.Input {
	in := blind.Input{Kind: p.Kind, Judges: p.Judges, Repeats: p.Repeats, Same: p.Same, Seed: seed}
	for _, a := range p.Arms {
		in.Arms = append(in.Arms, blind.Arm{Name: a.Label, Items: a.ItemIDs})
	}
	return in
}

// Check says what makes no sense about a panel.
func (p Panel) Check() error {
	var c quantity.Checks
	c.OneOf("shows", p.Shows, ShowsSpecimens, ShowsPhotographs)
	if strings.TrimSpace(p.Question) == "" {
		c.Fail("question", "is missing; ask the judges in one sentence, such as: which is crisper?")
	}
	if err := errors.Join(c.Err(), p.View().Check()); err != nil {
		return err
	}
	return p.Input(0).Check()
}

// View is how judges look.
func (p Panel) View() viewing.View {
	return viewing.View{Station: p.Station, Magnification: p.Magnification, Stage: p.Stage, Light: p.Light}
}

// PanelSeal keeps what stands behind the codes of a panel: PanelKey is the key as JSON, empty where it is only
// known in the record that the panel came from; Sealed is the key encrypted, which goes out with the record;
// Opening is what opens it, empty where PanelKey is.
type PanelSeal struct {
	PanelID  string `json:"panel_id"`
	PanelKey string `json:"panel_key" maxLength:"60000"`
	Sealed   string `json:"sealed" maxLength:"100000"`
	Opening  string `json:"opening"`
}

// Ballot is what one judge, counted from 1, is shown and answered. Trials are the codes of each trial from the
// left to the right. Knew is whether the judge believed to know which was which, and KnewBy by what; nil where
// they were not asked. One that was replaced counts no more.
type Ballot struct {
	ID          string        `json:"id"`
	PanelID     string        `json:"panel_id"`
	Judge       int64         `json:"judge"`
	Token       string        `json:"token"`
	Trials      BallotTrials  `json:"trials"`
	CreatedMS   int64         `json:"created_ms"`
	Name        string        `json:"name"`
	Answers     BallotAnswers `json:"answers"`
	Knew        *bool         `json:"knew"`
	KnewBy      string        `json:"knew_by"`
	Way         string        `json:"way" enum:",table,link,file"`
	CastMS      *int64        `json:"cast_ms"`
	ReplacedMS  *int64        `json:"replaced_ms"`
	ReplacedWhy string        `json:"replaced_why"`
}

// BallotTrials are the codes of the trials of a ballot.
type BallotTrials [][]string

// BallotAnswers are the answers of a judge, one a trial, in their order.
type BallotAnswers []BallotAnswer

// BallotAnswer is what a judge said of a trial: Place is the one chosen, from 0 at the left, −1 for no
// difference; Order are the places from best to worst, of a ranking; Arm is the one named, of a matching. Sure
// runs from 0, a guess, to 4, certain.
type BallotAnswer struct {
	Place int64   `json:"place" required:"false" minimum:"-1" maximum:"11"`
	Order []int64 `json:"order" required:"false" maxItems:"12"`
	Arm   int64   `json:"arm" required:"false" minimum:"0" maximum:"11"`
	Sure  *int64  `json:"sure" required:"false" minimum:"0" maximum:"4"`
}

// Value stores the trials as JSON text.
func (l BallotTrials) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *BallotTrials) Scan(from any) error { return scanList(from, l) }

// Value stores the answers as JSON text.
func (l BallotAnswers) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *BallotAnswers) Scan(from any) error { return scanList(from, l) }

// As are the answers as the core reads them, of a judge counted from 0.
func (l BallotAnswers) As(judge int) (out []blind.Answer) {
	for i, a := range l {
		answer := blind.Answer{Judge: judge, Trial: i, Place: int(a.Place), Arm: int(a.Arm), Sure: a.Sure}
		for _, place := range a.Order {
			answer.Order = append(answer.Order, int(place))
		}
		out = append(out, answer)
	}
	return out
}

// SameName reports two names that are of one person, as far as a name can tell.
func SameName(a, b string) bool {
	a, b = strings.TrimSpace(a), strings.TrimSpace(b)
	return a != "" && strings.EqualFold(strings.Join(strings.Fields(a), " "), strings.Join(strings.Fields(b), " "))
}

// Holds reports an item of the panel.
func (p Panel) Holds(itemID string) bool { return slices.Contains(p.Items(), itemID) }
