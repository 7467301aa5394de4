package calendar

import (
	"context"
	"fmt"
	"math"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/planning"
)

// Calendar is what is printing and what waits, machine by machine, in the hours of one person.
// AttendedH is how long that one must be there for what is laid out, RunH how long the machines
// print. Days are those that the page shows.
type Calendar struct {
	NowMS     int64              `json:"now_ms"`
	ReadyByMS *int64             `json:"ready_by_ms"`
	Days      []AttendedDay      `json:"days"`
	HoursSay  string             `json:"hours_say"`
	Choices   []Choice           `json:"choices"`
	Machines  []Lane             `json:"machines"`
	RunH      float64            `json:"run_h"`
	AttendedH float64            `json:"attended_h"`
	ReadyMS   *int64             `json:"ready_ms"`
	Notes     []CalendarNote     `json:"notes"`
	Warnings  []quantity.Warning `json:"warnings"`
	settings  bench.Settings
	monday    time.Time
}

// Choice is an hour by which prints are often asked to be ready, in words.
type Choice struct {
	Words string `json:"words"`
	AtMS  int64  `json:"at_ms"`
}

// AttendedDay is a day from its midnight to the next, and when someone is there; nil on a day off.
type AttendedDay struct {
	StartMS int64  `json:"start_ms"`
	EndMS   int64  `json:"end_ms"`
	FromMS  *int64 `json:"from_ms"`
	ToMS    *int64 `json:"to_ms"`
}

// Lane is one machine: what prints on it now, and what follows in its order. VatChanges counts
// how often its vat is cleaned for another resin on the way, More the prints that are not laid
// out because too many wait.
type Lane struct {
	MachineID  string         `json:"machine_id"`
	Machine    string         `json:"machine"`
	InVat      string         `json:"in_vat"`
	Now        *RunningPrint  `json:"now"`
	Prints     []WaitingPrint `json:"prints"`
	VatChanges int64          `json:"vat_changes"`
	More       int64          `json:"more"`

	last *bench.Run
}

// RunningPrint is the print that is on a machine now. EndsMS is nil where its time cannot be foretold;
// Late says that it should have ended by now even at the slow end of its interval.
type RunningPrint struct {
	RunID      string    `json:"run_id"`
	Code       string    `json:"code"`
	State      string    `json:"state" enum:"printing,paused"`
	Colour     string    `json:"colour"`
	StartedMS  int64     `json:"started_ms"`
	EndsMS     *int64    `json:"ends_ms"`
	EndsPI     *[2]int64 `json:"ends_pi_ms"`
	ReadyMS    *int64    `json:"ready_ms"`
	Alone      bool      `json:"alone"`
	Late       bool      `json:"late"`
	TopUpMS    *int64    `json:"top_up_ms"`
	TopUpAlone bool      `json:"top_up_alone"`
	Reason     string    `json:"reason"`

	after planning.AfterPrint
}

// WaitingPrint is one that waits: a prepared print, or a plate that nothing printed yet. TakesS is how
// long it prints, with its 95 % prediction interval; the instants are nil, with the reason,
// where they cannot be told.
type WaitingPrint struct {
	Code       string             `json:"code"`
	Name       string             `json:"name"`
	Link       string             `json:"link"`
	State      string             `json:"state" enum:"prepared,laid"`
	Resin      string             `json:"resin"`
	Colour     string             `json:"colour"`
	VatChange  bool               `json:"vat_change"`
	TakesS     *float64           `json:"takes_s"`
	TakesPI    *quantity.Interval `json:"takes_pi_s"`
	TurnMS     *int64             `json:"turn_ms"`
	StartMS    *int64             `json:"start_ms"`
	EndMS      *int64             `json:"end_ms"`
	OffMS      *int64             `json:"off_ms"`
	ReadyMS    *int64             `json:"ready_ms"`
	AfterS     float64            `json:"after_s"`
	AfterSays  string             `json:"after_says"`
	Alone      bool               `json:"alone"`
	LatestMS   *int64             `json:"latest_ms"`
	InTime     bool               `json:"in_time"`
	TopUpMS    *int64             `json:"top_up_ms"`
	TopUpAlone bool               `json:"top_up_alone"`
	Reason     string             `json:"reason"`

	resinID     string
	planID      string
	topUpAfterS *float64
}

// Calendar lays out what waits; readyByMS asks by when each must begin to be ready then.
func (w *Tasks) Calendar(ctx context.Context, readyByMS *int64) (out Calendar, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.read(t, readyByMS)
		return err
	})
	return out, err
}

func (w *Tasks) read(t *store.Tx, readyByMS *int64) (Calendar, error) {
	out := Calendar{NowMS: w.NowMS(), ReadyByMS: readyByMS, Machines: []Lane{}, Notes: []CalendarNote{}, Warnings: []quantity.Warning{}}
	if readyByMS != nil && *readyByMS <= out.NowMS {
		return out, quantity.Errorf("ready_by_ms", "lies in the past; choose an hour to come")
	}
	var err error
	if out.settings, err = t.Settings(); err != nil {
		return out, err
	}
	out.monday = mondayBefore(time.UnixMilli(out.NowMS))
	if out.Machines, err = w.lanes(t); err != nil {
		return out, err
	}
	if err := out.lay(); err != nil {
		return out, err
	}
	out.days()
	out.HoursSay = fmt.Sprintf("You are there from %s to %s %s; between two prints a machine takes %s, another resin %s more.",
		planning.Clock(out.settings.AttendedFromH), planning.Clock(out.settings.AttendedToH), weekdays(out.settings.AttendedDays),
		say.Duration(60*out.settings.TurnaroundMin), say.Duration(60*out.settings.VatChangeMin))
	out.Choices = out.choices()
	return out, out.note(t)
}

// mondayBefore is the midnight that began the week of an instant, by the bench's own clock.
func mondayBefore(at time.Time) time.Time {
	sinceMonday := (int(at.Weekday()) + 6) % 7
	return time.Date(at.Year(), at.Month(), at.Day()-sinceMonday, 0, 0, 0, 0, at.Location())
}

// hour is an instant in hours since the Monday, as the clock on the wall counts them, so that
// nine o'clock is nine also after the clocks were changed.
func (c *Calendar) hour(ms int64) float64 {
	at := time.UnixMilli(ms).In(c.monday.Location())
	midnight := time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, at.Location())
	days := math.Round(midnight.Sub(c.monday).Hours() / 24)
	return days*24 + float64(at.Hour()) + float64(at.Minute())/60 + (float64(at.Second())+float64(at.Nanosecond())/1e9)/3600
}

// instant is what hour counted, to the second.
func (c *Calendar) instant(hour float64) int64 {
	m := c.monday
	return time.Date(m.Year(), m.Month(), m.Day(), 0, 0, int(math.Round(hour*3600)), 0, m.Location()).UnixMilli()
}

func (c *Calendar) hours() plan.Hours {
	return plan.Hours{FromH: c.settings.AttendedFromH, ToH: c.settings.AttendedToH, Days: c.settings.AttendedDays}
}

// lay gives each print its place, and says what falls into hours when nobody is there.
func (c *Calendar) lay() error {
	now := c.hour(c.NowMS)
	in := plan.CalendarInput{NowH: now, TurnaroundMin: c.settings.TurnaroundMin, Hours: c.hours()}
	if c.ReadyByMS != nil {
		in.ReadyByH = quantity.Ptr(c.hour(*c.ReadyByMS))
	}
	var laid []*WaitingPrint
	for i := range c.Machines {
		lane := &c.Machines[i]
		in.FreeH = append(in.FreeH, lane.freeH(c, now))
		stuck := lane.stuck()
		for j := range lane.Prints {
			p := &lane.Prints[j]
			if stuck = stuck || p.TakesS == nil; stuck {
				if p.Reason == "" {
					p.Reason = "It waits behind a print whose time is not known."
				}
				continue
			}
			one := plan.Waiting{Machine: int64(i), PrintS: *p.TakesS, AfterS: p.AfterS}
			if p.VatChange {
				one.ExtraMin = c.settings.VatChangeMin
			}
			in.Prints, laid = append(in.Prints, one), append(laid, p)
		}
	}
	res, err := plan.Calendar(in)
	if err != nil {
		return err
	}
	for i, slot := range res.Slots {
		c.place(laid[i], slot)
	}
	c.RunH, c.AttendedH, c.Warnings = res.RunH, res.AttendedH, res.Warnings.Warnings
	if res.ReadyH > 0 {
		c.ReadyMS = quantity.Ptr(c.instant(res.ReadyH))
	}
	return nil
}

func (c *Calendar) place(p *WaitingPrint, slot *plan.Slot) {
	if slot == nil {
		p.Reason = "Making the machine ready for it takes longer than a day of yours."
		return
	}
	at := func(hour float64) *int64 { return quantity.Ptr(c.instant(hour)) }
	p.TurnMS, p.StartMS, p.EndMS, p.OffMS, p.ReadyMS = at(slot.TurnH), at(slot.StartH), at(slot.EndH), at(slot.OffH), at(slot.ReadyH)
	p.Alone, p.InTime = slot.Alone, slot.InTime
	if slot.LatestH != nil {
		p.LatestMS = at(*slot.LatestH)
	}
	if p.topUpAfterS != nil {
		due := slot.StartH + *p.topUpAfterS/3600
		p.TopUpMS, p.TopUpAlone = at(due), !c.hours().Attended(due)
	}
}

// stuck reports a machine of which it cannot be told when it is free.
func (l *Lane) stuck() bool { return l.Now != nil && l.Now.EndsMS == nil }

// freeH is when the machine is free, and says what follows of the print on it.
func (l *Lane) freeH(c *Calendar, now float64) float64 {
	if l.Now == nil || l.Now.EndsMS == nil {
		return now
	}
	ends := c.hour(*l.Now.EndsMS)
	l.Now.Alone = !c.hours().Attended(ends)
	l.Now.ReadyMS = quantity.Ptr(c.instant(c.hours().Next(math.Max(now, ends)) + l.Now.after.S/3600))
	if l.Now.TopUpMS != nil {
		l.Now.TopUpAlone = !c.hours().Attended(c.hour(*l.Now.TopUpMS))
	}
	return math.Max(now, ends)
}

// days are those from today to the last that something needs, a week at least.
func (c *Calendar) days() {
	last := c.hour(c.NowMS) + 24*leastDays
	for _, lane := range c.Machines {
		for _, p := range lane.Prints {
			if p.ReadyMS != nil {
				last = math.Max(last, c.hour(*p.ReadyMS))
			}
		}
	}
	today := math.Floor(c.hour(c.NowMS) / 24)
	for day := today; day < today+mostDays && day*24 < last; day++ {
		one := AttendedDay{StartMS: c.instant(day * 24), EndMS: c.instant(day*24 + 24)}
		if c.hours().Attended(day*24 + c.settings.AttendedFromH) {
			one.FromMS, one.ToMS = quantity.Ptr(c.instant(day*24+c.settings.AttendedFromH)), quantity.Ptr(c.instant(day*24+c.settings.AttendedToH))
		}
		c.Days = append(c.Days, one)
	}
}

const leastDays, mostDays = 7, 28

// weekdays are the attended days of a week in words.
func weekdays(days int64) string {
	if days == 1 {
		return "on Mondays"
	}
	return "Monday to " + [...]string{"Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"}[days-2]
}

// choices are the ends of today and of the next day when someone is there, and Friday noon.
func (c *Calendar) choices() []Choice {
	out := []Choice{}
	add := func(words string, hour float64) {
		if at := c.instant(hour); at > c.NowMS {
			out = append(out, Choice{words, at})
		}
	}
	now := c.hour(c.NowMS)
	today := math.Floor(now/24) * 24
	if c.hours().Attended(today + c.settings.AttendedToH) {
		add("tonight", today+c.settings.AttendedToH)
	}
	next := math.Floor(c.hours().Next(today+24)/24) * 24
	add("the end of "+time.UnixMilli(c.instant(next)).Format("Monday"), next+c.settings.AttendedToH)
	const friday, noon = 4 * 24, 12
	if now < friday+noon {
		add("Friday noon", friday+noon)
	} else {
		add("Friday noon next week", friday+noon+7*24)
	}
	return out
}
