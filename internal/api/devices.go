package api

import (
	"context"
	"encoding/json"
	"mime"
	"net"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"ojime/internal/bench"
	"ojime/internal/device"
	"ojime/internal/work/feed"
)

// feedBytes bounds what one request of a device may carry.
const feedBytes = 1 << 20

type feedBody struct {
	sender
	Authorization string `header:"Authorization"`
	ContentType   string `header:"Content-Type"`
	RawBody       []byte
}

type jobQuery struct {
	sender
	Authorization string `header:"Authorization"`
}

// sender is where a request came from.
type sender struct{ from string }

// Resolve notes the sender's host.
func (s *sender) Resolve(ctx huma.Context) []error {
	s.from = ctx.RemoteAddr()
	if host, _, err := net.SplitHostPort(s.from); err == nil {
		s.from = host
	}
	return nil
}

type standInBody struct {
	Body struct {
		device.Plan
		MachineID *string `json:"machine_id" required:"false"`
	}
}

func (s *server) devices(ctx context.Context) {
	s.standIns = device.NewStandIns(ctx, s.work, device.RealClock, s.take)
	serve(s, http.MethodGet, "/api/v1/devices", "Devices with what came in from them", func(ctx context.Context, _ *nothing) ([]feed.DeviceCard, error) {
		return s.work.Feed.Devices(ctx)
	})
	serve(s, http.MethodPost, "/api/v1/devices", "Record a device; its token is shown this once", func(ctx context.Context, in *created[bench.Device]) (feed.DeviceMade, error) {
		return s.work.Feed.MakeDevice(ctx, in.Body)
	})
	serve(s, http.MethodPost, "/api/v1/devices/{id}/retirement", "End what a device may send", func(ctx context.Context, in *byIDPath) (bench.Device, error) {
		return s.work.Feed.RetireDevice(ctx, in.ID)
	})
	serve(s, http.MethodPost, "/api/v1/devices/{id}/tokens", "Give a device a new token; the old one is void", func(ctx context.Context, in *byIDPath) (feed.DeviceMade, error) {
		return s.work.Feed.RenewToken(ctx, in.ID)
	})
	serve(s, http.MethodGet, "/api/v1/stand-ins", "Stand-ins that run or ran since the program started", func(context.Context, *nothing) ([]device.Running, error) {
		return s.standIns.List(), nil
	})
	serve(s, http.MethodPost, "/api/v1/stand-ins", "Start a stand-in", func(ctx context.Context, in *standInBody) (device.Running, error) {
		return s.standIns.Start(ctx, in.Body.Plan, in.Body.MachineID)
	})
	serve(s, http.MethodPost, "/api/v1/stand-ins/{id}/end", "End a stand-in", func(_ context.Context, in *byIDPath) ([]device.Running, error) {
		err := s.standIns.Stop(in.ID)
		return s.standIns.List(), err
	})
	serve(s, http.MethodGet, "/api/v1/feed/job", "What a printer is to print next, or prints now", func(ctx context.Context, in *jobQuery) (feed.Job, error) {
		var out feed.Job
		err := s.tokens.watch(in.from, func() (err error) {
			out, err = s.work.Feed.Job(ctx, token(in.Authorization))
			return err
		})
		s.noteToken(in.from, err)
		return out, err
	})
	// A feed tells the pages itself, and only of what they show.
	op := huma.Operation{OperationID: "post-feed", Method: http.MethodPost, Path: "/api/v1/feed", Summary: "Messages of a device, as JSON or as lines; see docs/devices.md", Tags: []string{asks}, MaxBodyBytes: feedBytes}
	serveOp(s, op, func(ctx context.Context, in *feedBody) (feed.Received, error) {
		read := device.ReadJSON
		if kind, _, err := mime.ParseMediaType(in.ContentType); err == nil && kind == "text/plain" {
			read = device.ReadLines
		}
		messages, err := read(in.RawBody)
		if err != nil {
			return feed.Received{}, err
		}
		var out feed.Received
		err = s.tokens.watch(in.from, func() (err error) {
			out, err = s.take(ctx, token(in.Authorization), messages)
			return err
		})
		s.noteToken(in.from, err)
		return out, err
	})
}

func token(authorization string) string { return strings.TrimPrefix(authorization, "Bearer ") }

// take receives messages and tells open pages what they mean to them.
func (s *server) take(ctx context.Context, token string, messages []bench.DeviceMessage) (feed.Received, error) {
	got, err := s.work.Feed.Receive(ctx, token, messages)
	if err != nil {
		return got, err
	}
	if got.Changed {
		s.changes.tell("feed", "")
	}
	for _, r := range got.Readings {
		if data, err := json.Marshal(r); err == nil { // plain values encode
			s.changes.send(data)
		}
	}
	return got, nil
}
