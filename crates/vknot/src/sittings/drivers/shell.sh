exec 9<&0 </dev/null
vknot_mark=$(printf '\036%s' "$VKNOT_MARK")
unset VKNOT_MARK
trap : INT
while IFS='	' read -r vknot_path vknot_name <&9; do
    . "$vknot_path"
    vknot_status=$?
    printf '%s %s\n' "$vknot_mark" "$vknot_status"
    printf '%s %s\n' "$vknot_mark" "$vknot_status" >&2
done
