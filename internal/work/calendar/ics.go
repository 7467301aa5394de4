package calendar

import (
	"context"
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"

	"ojime/internal/say"
)

// ICS is the calendar as an iCalendar file (RFC 5545): what prints, what waits with the work
// before it, when to take off, and when to top up.
func (w *Tasks) ICS(ctx context.Context) ([]byte, error) {
	c, err := w.Calendar(ctx, nil)
	if err != nil {
		return nil, err
	}
	file := ics.NewCalendar()
	file.SetProductId("-//Ojime//calendar//EN")
	file.SetMethod(ics.MethodPublish)
	event := func(id, summary, about string, fromMS, toMS int64) {
		e := file.AddEvent(id + "@ojime")
		e.SetDtStampTime(time.UnixMilli(c.NowMS))
		e.SetStartAt(time.UnixMilli(fromMS))
		e.SetEndAt(time.UnixMilli(toMS))
		e.SetSummary(summary)
		if about != "" {
			e.SetDescription(about)
		}
	}
	for _, lane := range c.Machines {
		if n := lane.Now; n != nil && n.EndsMS != nil {
			event(n.Code, fmt.Sprintf("%s prints on %s", n.Code, lane.Machine), n.Reason, n.StartedMS, *n.EndsMS)
		}
		for _, p := range lane.Prints {
			if p.StartMS == nil {
				continue
			}
			event(p.Code+"-turn", fmt.Sprintf("Make %s ready for %s", lane.Machine, p.Code), p.beforehand(), *p.TurnMS, *p.StartMS)
			event(p.Code, fmt.Sprintf("%s prints on %s", p.Code, lane.Machine), p.about(), *p.StartMS, *p.EndMS)
			if p.TopUpMS != nil {
				event(p.Code+"-top-up", fmt.Sprintf("Top up %s: its vat runs dry", lane.Machine), p.Code, *p.TopUpMS, *p.TopUpMS)
			}
		}
	}
	return []byte(file.Serialize(ics.WithNewLineWindows)), nil
}

func (p WaitingPrint) beforehand() string {
	if p.VatChange {
		return "Empty and clean the vat, fill in " + p.Resin + "."
	}
	return p.Resin
}

func (p WaitingPrint) about() string {
	return fmt.Sprintf("%s, %s; %s to print, then %s. Ready %s.", p.Name, p.Resin, say.Duration(*p.TakesS), p.AfterSays, time.UnixMilli(*p.ReadyMS).Format("2006-01-02 15:04"))
}
