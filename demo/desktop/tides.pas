unit Tides;

{$mode objfpc}

interface

uses
  SysUtils, Classes;

type
  TTide = (tdEbb, tdSlack, tdFlood);

  { One station's tide table. }
  TTideTable = class(TObject)
  private
    FStation: string;
    FHeights: array of Double;
  public
    constructor Create(const AStation: string);
    function HeightAt(AHour: Integer): Double;
    property Station: string read FStation;
  end;

implementation

{$REGION 'Making'}
constructor TTideTable.Create(const AStation: string);
begin
  inherited Create;
  FStation := AStation;
    SetLength(FHeights, 24);
end;
{$ENDREGION}

function TTideTable.HeightAt(AHour: Integer): Double;
var
  Hour: Integer;
begin
  Hour := AHour mod 24;
  case Hour of
    0..5: Result := FHeights[Hour];
    6, 7: begin
        Result := FHeights[Hour] * 1.1;
      end;
  else
    if Hour > 20 then Result := 0 // TODO: night readings are missing
    else
      Result := FHeights[Hour];
  end;
end;

end.
