package api

import (
	"context"
	"net/http"

	"ojime/internal/work/calendar"
)

type calendarQuery struct {
	ReadyByMS int64 `query:"ready_by_ms" minimum:"0" doc:"0: no such hour"`
}

// calendar is what prints and what waits, in the reviewer's hours.
func (s *server) calendar() {
	serve(s, http.MethodGet, "/api/v1/calendar", "What prints and what waits on all machines, in the hours of one person", func(ctx context.Context, in *calendarQuery) (calendar.Calendar, error) {
		if in.ReadyByMS == 0 {
			return s.work.Calendar.Calendar(ctx, nil)
		}
		return s.work.Calendar.Calendar(ctx, &in.ReadyByMS)
	})
	serveFile(s, "/api/v1/calendar.ics", "The calendar as an iCalendar file", func(ctx context.Context, _ *nothing) (string, string, []byte, error) {
		data, err := s.work.Calendar.ICS(ctx)
		return "ojime.ics", "text/calendar; charset=utf-8", data, err
	})
}
