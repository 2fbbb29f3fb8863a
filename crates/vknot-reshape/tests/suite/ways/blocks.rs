//! Blocks, pages and forms that stand in ways of their own.

use super::Way;

pub(super) const WAYS: &[Way] = &[
    ("braces a level in, with what is inside them", "cpp", "\
void Gauge::start(int high,
                  int low)
   {
   if(high > low)
      {
      watch(high);
      watch(low);
      }
   else
      {
§      calm();
      }
   }

int Gauge::read()
   {
   for(auto next : levels)
      {
      sum += next;
      }
   return std::async([&]() -> int {
      return sum;
      });
   }

void Gauge::stop()
   {
   if(running)
      {
      calm();
      }
   running = false;
   }
"),
    ("a first line of a block that is off says nothing of the others", "c", "\
static void watch(int level)
{
  for (;;)
    {
§    log_level(level);
    level = read_level(level);
    switch(level)
      {
      case HIGH:
      warn(level);
      break;

      case LOW:
      calm(level);
      break;
      }
    }
}

static void stop(int level)
{
  int last = level;
  while (level > 0)
    {
    level = read_level(level);
    calm(level);
    }
  if (last > level)
    {
    warn(last);
    }
  close_gauge();
}
"),
    ("words of blocks a level in, names below each other, and the end of a unit", "pascal", "\
unit gauges;

interface

type
  TReading = record
    High,
    Low,
    Usual: integer;
    case Kept: boolean of
      true: (Place: integer);
      false: (Reason: integer;
        Code: integer);
  end;

implementation

    function Twice(level: integer): integer;
      begin
        Twice := 2 * level;
      end;

    procedure Watch(level: integer);
      begin
        if level > 1 then
          begin
            Warn(level);
            Send(level);
          end
        else
          begin
§            Calm(level);
          end;
        Send(Twice(level));
      end;

end.
"),
    ("closing words that stand a little further in than what they close", "pascal", "\
type
     TLevel = record
          High : integer;
          Low : integer;
       end;
     PLevel = ^TLevel;
     TStation = record
          Level : TLevel;
§          Name : string;
       end;
     THarbour = record
          Station : TStation;
       end;
     TNotice = record
          Harbour : THarbour;
          Level : TLevel;
       end;
"),
    ("a page whose contents stand at the margin, though its body does not", "html", "\
<html>
  <head>
    <title>Tides</title>
  </head>
  <body>
<h1>Tides</h1>
<p>High in the
morning.</p>
<p>Low at noon.</p>
<ul>
  <li>Northhaven</li>
§  <li>Southhaven</li>
</ul>
<p>High again.</p>
<p>And low.</p>
<p>Nothing else.</p>
  </body>
</html>
"),
    ("cases two levels in, and a semicolon on a line of its own", "javascript", "\
const high = 1,
      low = 0
;

function name(level) {
  switch (level) {
      case 0: return 'low';
      case 1: return 'high';
      default:
§        warn(level);
        return 'none';
  }
}

function next(level) {
  switch (level) {
      case 0: return 1;
      default: return 0;
  }
}
"),
    ("cases at the margin of what a loop turns through", "c", "\
int run(struct step *step)
{
  for (;;) {
    switch (step->kind) {

case STEP_READ: {
  level = read_level(step);
  break;
}

case STEP_WARN: {
  if (level > 2) {
§    warn(level);
  }
  break;
}

case STEP_CALM: {
  calm(level);
  break;
}

case STEP_SEND: {
  send(level);
  break;
}

default: {
  return 0;
}
    }
  }
}
"),
    ("styles, scripts and texts that stand where their author put them", "html", "\
<html>
  <head>
    <title>Tides</title>
    <style>
.high { color: red }
.low {
  color: blue;
}
    </style>
    <script>
        if (high) {
          warn();
        }
    </script>
  </head>
  <body>
    <div>
      <p>High in the morning.</p>
<pre>
 6:00  4.2
18:00  4.1
</pre>
§      <p>Low at noon.</p>
    </div>
  </body>
</html>
"),
];
