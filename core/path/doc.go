// Package path answers: what is done when?
//
// A build gives an Order: tasks with hands-on minutes, and arrows that say what
// must come before what, how long to wait at least (drying) and at most (a window
// that closes). Waits run day and night at the room's drying rate. The workshop
// has one pair of hands and weekly windows; Schedule lays the tasks of all builds
// into them, in order for now: builds by priority, tasks as they stand, each at
// the first time at which its waits have run out and the hands are free.
//
// The core never reads a clock: the instant of planning is an input, and its
// location is the workshop's time zone.
package path
