//! Blocks, pages and forms that stand in ways of their own.

use super::Way;

pub(super) const WAYS: &[Way] = &[
    ("blocks of a template, one level in", "html", "\
{% extends 'board.html' %}

{% block content %}
  <form method=\"post\">
    <label for=\"level\">Level</label>
§    <input name=\"level\">
    {% if zone %}
      <input name=\"zone\">
      {% for tide in tides %}
        <b>{{ tide }}</b>
      {% endfor %}
    {% else %}
      <i>none</i>
    {% endif %}
  </form>
  <ul>
    {% if low %}
      <li>low
    {% else %}
      <li>high
    {% endif %}
  </ul>
{% endblock %}
"),
    ("blocks of other templates, one level in", "html", "\
<body>
  {{#each stations}}
    <p>{{name}}</p>
    {{#if low}}
      <b>low</b>
    {{else}}
      <i>high</i>
    {{/if}}
  {{/each}}
  <div>
§    <p>levels</p>
    <% stations.each do |station| %>
      <p>station</p>
    <% end %>
    <% if (low) { %>
      <p>low</p>
    <% } else { %>
      <p>high</p>
    <% } %>
    <?php foreach ($stations as $station): ?>
      <p>station</p>
    <?php endforeach; ?>
  </div>
</body>
"),
    ("a page whose tags stand at the margin but for a few", "html", "\
<body>
<form action=\"/search\">
<div id=\"menu\">
<a href=\"/levels/\">Levels</a>
<a href=\"/tides/\">Tides</a>
<a href=\"/help/\">Help</a>
</div>
</form>
<div id=\"page\">
  <h1>Stations</h1>
<ul>
  <li>low</li>
§  <li>high</li>
  <li>mean</li>
</ul>

<h2>Station 1</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<h2>Station 2</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<h2>Station 3</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<h2>Station 4</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<h2>Station 5</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<h2>Station 6</h2>
<p>
Levels of the station are read each hour
by <em>the keeper</em>, and told to all.
</p>

<p>
Tides of the coast are read, told and kept as well.
Tides of the coast are read, told and kept as well.
Tides of the coast are read, told and kept as well.
</p>
</div>
</body>
"),
    ("what holds a page, in pieces that stand where their author set them", "html", "\
<html>
  <head>
    <title>Stations</title>
  </head>
  <body>
    <div>
      <p>Low</p>
    </div>
    <div id=\"content\">
    <p>Station 1</p>
    <p>Station 2</p>
§    <p>Station 3</p>
    <p>Station 4</p>
    <p>Station 5</p>
    <p>Station 6</p>
    <p>Station 7</p>
    <p>Station 8</p>
    <p>Station 9</p>
  <p>Station 10</p>
  <p>Station 11</p>
  <p>Station 12</p>
  <p>Station 13</p>
  <p>Station 14</p>
  <p>Station 15</p>
  <p>Station 16</p>
  <p>Station 17</p>
   <p>Station 18</p>
   <p>Station 19</p>
   <p>Station 20</p>
   <p>Station 21</p>
   <p>Station 22</p>
   <p>Station 23</p>
   <p>Station 24</p>
    </div>
  </body>
</html>
"),
    ("most members of a namespace within another at the margin", "cpp", "\
namespace tide {
    namespace gauge {

        using tide::Level;
        const int most = 15;
        bool isLow(int level);

// ----
void read1(int hour)
{
    if (!hour) {
        return;
    }
    store(1);
}

// ----
void read2(int hour)
{
§    if (!hour) {
        return;
    }
    store(2);
}

// ----
void read3(int hour)
{
    if (!hour) {
        return;
    }
    store(3);
}

// ----
void read4(int hour)
{
    if (!hour) {
        return;
    }
    store(4);
}

// ----
void read5(int hour)
{
    if (!hour) {
        return;
    }
    store(5);
}

// ----
void read6(int hour)
{
    if (!hour) {
        return;
    }
    store(6);
}

// ----
void read7(int hour)
{
    if (!hour) {
        return;
    }
    store(7);
}

// ----
void read8(int hour)
{
    if (!hour) {
        return;
    }
    store(8);
}

    } // gauge
} // tide
"),
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
