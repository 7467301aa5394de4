package calendar

import (
	"fmt"

	"ojime/internal/say"
	"ojime/internal/store"
)

// CalendarNote is what the calendar found that someone should look at, with the page that shows it.
type CalendarNote struct {
	Says string `json:"says"`
	Link string `json:"link"`
}

// note names what moves the rest: prints that are late or failed, and what falls into the night.
func (c *Calendar) note(t *store.Tx) error {
	for i := range c.Machines {
		lane := &c.Machines[i]
		if err := lane.failed(t, c); err != nil {
			return err
		}
		lane.now(c)
		for _, p := range lane.Prints {
			p.note(c, lane.Machine)
		}
		if lane.More > 0 {
			c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("%s more wait on %s and are not laid out here.", say.Counted(lane.More, "print"), lane.Machine), "/plan"})
		}
	}
	return nil
}

// Shapes of beads that call for the print to be made again.
const nothingUsable, partLost = "ring", "split"

// failed names the last print of a machine where nothing of it came out and it was not printed again.
func (l *Lane) failed(t *store.Tx, c *Calendar) error {
	if l.last == nil || (l.last.Shape != nothingUsable && l.last.Shape != partLost) {
		return nil
	}
	again, err := t.RunsAgain(l.last.ID)
	if err != nil || len(again) > 0 {
		return err
	}
	lost := "lost a part of its plate"
	if l.last.Shape == nothingUsable {
		lost = "gave nothing usable"
	}
	c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("%s on %s %s and is not planned again.", l.last.Code, l.Machine, lost), "/runs/" + l.last.ID})
	return nil
}

func (l *Lane) now(c *Calendar) {
	if l.Now == nil {
		return
	}
	link := "/runs/" + l.Now.RunID
	if l.Now.Late {
		c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("%s on %s is late: it should have ended by now; what follows there moves with it.", l.Now.Code, l.Machine), link})
	}
	if l.Now.TopUpAlone {
		c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("The vat of %s runs dry while nobody is there: top up %s before you leave.", l.Machine, l.Now.Code), link})
	}
}

func (p WaitingPrint) note(c *Calendar, machine string) {
	if p.TopUpAlone {
		c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("The vat of %s runs dry during %s while nobody is there: begin with a fuller vat, or at another hour.", machine, p.Code), p.Link})
	}
	if c.ReadyByMS != nil && p.StartMS != nil && !p.InTime {
		c.Notes = append(c.Notes, CalendarNote{fmt.Sprintf("%s on %s cannot be ready by then.", p.Code, machine), p.Link})
	}
}
